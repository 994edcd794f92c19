import type { Edit } from ".";
import type { LiftOutEdit } from "./kinds/lift-out";

/** The stack with one more lift-out, first of all; one of the same kind grows by its settings instead of standing twice. */
export function withLiftOut(stack: readonly Edit[], edit: LiftOutEdit): Edit[] {
  const isSame = (one: Edit): one is LiftOutEdit =>
    one.kind === "lift-out" && one.what === edit.what && one.tool === edit.tool;
  const before = stack.find(isSame);
  const settings =
    edit.settings && before ? [...new Set([...(before.settings ?? []), ...edit.settings])] : edit.settings;
  return [settings ? { ...edit, settings } : edit, ...stack.filter((one) => !isSame(one))];
}
