// Asking the server for something: what it said no to stands beside what was asked, and nothing else is
// swallowed.
import { Offline, Refused, type Problem } from "../api/client";
import { reach } from "../offline/reach.svelte";

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

  /** A write: what was said before it is done with. */
  async run<T>(work: () => Promise<T>): Promise<T | undefined> {
    this.problems = [];
    this.busy = true;
    try {
      return await work();
    } catch (error) {
      this.problems = problemsOf(error);
    } finally {
      this.busy = false;
    }
  }
  /** A reading: what was said at a field stays until something is written again. */
  async read<T>(work: () => Promise<T>): Promise<T | undefined> {
    const atFields = () => this.problems.filter((one) => one.field !== "");
    try {
      const done = await work();
      this.problems = atFields();
      return done;
    } catch (error) {
      // that there is no connection is said at the top, and what is shown may be what this device has
      const problems = error instanceof Offline && reach.away ? [] : problemsOf(error);
      this.problems = [...atFields(), ...problems];
    }
  }
}

/** What was refused, or that there is no connection; everything else is thrown on. */
function problemsOf(error: unknown): Problem[] {
  if (error instanceof Refused)
    return error.problems.length ? error.problems : [{ field: "", message: error.message }];
  if (error instanceof Offline)
    return [{ field: "", message: `${error.message} Nothing was changed; try again.` }];
  throw error;
}
