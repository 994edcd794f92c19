import { ProgramCheck } from "../check";

/** A print that begins without ever having waited for its nozzle to be hot. */
export const unwaitedHeat: ProgramCheck = {
  key: "unwaited-heat",
  passes: null,
  run({ report: { facts }, trial }) {
    const { unwaited, unknownCommands, coldFeed } = facts;
    // A nozzle that is not even set has a finding of its own; what is not known may wait.
    if (!unwaited || unknownCommands || coldFeed) return [];
    return [
      {
        check: "unwaited-heat",
        severity: "warn",
        where: `line ${unwaited.line}`,
        message: `The print begins without waiting for the nozzle: its first lines are laid while it is still warming up. Wait for it with M109 S${trial ? "{{nozzleFirst}}" : "…"}.`,
        ...(trial ? { mend: { label: "Look at the printer's start lines", open: "printer" as const } } : {}),
      },
    ];
  },
};
