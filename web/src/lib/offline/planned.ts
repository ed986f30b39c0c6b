// What of a log is the plan: takes do not move it.
import type { Schemas } from "../api/client";

type Reader = Pick<Schemas["PersonOut"], "units" | "school">;

/** The same for two logs of a shot between which nothing was planned otherwise. */
export const plannedOf = ({ hero_basis, layers }: Schemas["LogOut"], { units, school }: Reader) =>
  JSON.stringify([hero_basis, units, school, layers.map(({ id, plan }) => [id, plan])]);
