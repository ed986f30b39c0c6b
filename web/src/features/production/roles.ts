// What somebody may do in a production, as it is said.
export const ROLES = [
  ["supervisor", "Supervisor", "plans and changes everything, invites the others"],
  ["crew", "Crew", "reads all of it and logs takes"],
  ["guest", "Guest", "reads all of it"],
] as const;
