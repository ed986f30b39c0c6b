// Asking the server for something: what it said no to stands beside what was asked, and nothing else is
// swallowed.
import { Offline, Refused, type Problem } from "../api/client";

export class Asking {
  problems = $state<Problem[]>([]);
  busy = $state(false);

  /** The first problem at a field, or of the whole when no field is named. */
  at(field: string): string {
    return this.problems.find((one) => one.field === field)?.message ?? "";
  }
  /** What was said of no field that is shown: of the whole, or because somebody else saved first. */
  get whole(): string {
    return this.problems
      .filter((one) => one.field === "" || one.field === "version")
      .map((one) => one.message)
      .join(" ");
  }
  /** Everything that was said, in one line. */
  get said(): string {
    return this.problems.map((one) => one.message).join(" ");
  }

  async run<T>(work: () => Promise<T>): Promise<T | undefined> {
    this.problems = [];
    this.busy = true;
    try {
      return await work();
    } catch (error) {
      if (error instanceof Refused)
        this.problems = error.problems.length ? error.problems : [{ field: "", message: error.message }];
      else if (error instanceof Offline)
        this.problems = [{ field: "", message: `${error.message} Nothing was changed; try again.` }];
      else throw error;
    } finally {
      this.busy = false;
    }
  }
}
