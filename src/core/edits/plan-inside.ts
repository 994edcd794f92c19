/** Settings that live inside a file's moves: its own lines are rewritten. */
import { Finding } from "../findings/finding";
import { changedText } from "../gcode/line-change";
import { LineChange, MovingLine, withFeedsKept } from "../gcode/moving-lines";
import { Followed } from "../heightplan/planned";
import { refuse, Result, succeed } from "../result";
import { SettingKey, settingFor } from "../settings";
import { PlanLines } from "./plan-lines";
import { Splice } from "./splices/splice";

const encoder = new TextEncoder();

/** Rewrites one tool's lines for all settings that live in them; refused with field and reason where one cannot. */
export function rewriteInside(
  { context }: PlanLines,
  { planned, followed }: Followed,
  keys: readonly SettingKey[],
  tool: number,
): Result<{ splices: Splice[]; findings: Finding[] }> {
  const findings: Finding[] = [];
  // Two settings may change one line, each its own words.
  const changes = new Map<string, Map<MovingLine, LineChange>>();
  const linesOf = new Map<string, MovingLine[]>();
  for (const key of keys) {
    const field = `changes.${Math.max(0, followed[key]!.find((index) => index >= 0) ?? 0)}.settings.${key}`;
    const { rewrite } = settingFor(key).inside!;
    if (typeof rewrite === "string") return refuse(rewrite, field);
    if (rewrite.keeps === "filament" && context.file.report.byVolume !== null) {
      return refuse(
        `This file counts filament by its volume (M200, line ${context.file.report.byVolume}): its retraction cannot be changed here.`,
        field,
      );
    }
    const lines = context.file.movingLines(rewrite.keeps);
    if (!lines.ok) return refuse(lines.message, field);
    const rewritten = rewrite.changes(lines.value, planned[key]!, tool);
    if (!rewritten.ok) return refuse(rewritten.message, field);
    const kept = changes.get(rewrite.keeps) ?? new Map<MovingLine, LineChange>();
    for (const change of rewritten.value.changes) kept.set(change.line, { ...kept.get(change.line), ...change });
    changes.set(rewrite.keeps, kept);
    linesOf.set(rewrite.keeps, lines.value);
    findings.push(...leftFindings(rewritten.value.left, key));
  }
  const splices: Splice[] = [];
  for (const [keeps, ofLines] of changes) {
    for (const change of withFeedsKept(linesOf.get(keeps)!, ofLines)) splices.push(...spliceOf(change));
  }
  return succeed({ splices, findings });
}

function spliceOf(change: LineChange): Splice[] {
  const { line } = change;
  const insert = changedText(change);
  if (insert === line.text) return [];
  const removeBytes = encoder.encode(line.text).length;
  const layer = Math.max(0, line.layer);
  return [{ atByte: line.startByte, removeBytes, removeLines: 0, insert, line: line.line, layer, by: "plan" }];
}

function leftFindings(left: { what: string; count: number; firstLine: number }[], key: SettingKey): Finding[] {
  return left.map(({ what, count, firstLine }) => ({
    check: "left-as-they-are",
    severity: "warn",
    where: `line ${firstLine + 1}`,
    message: `${count === 1 ? "One place where" : `${count} places where`} the filament is drawn back ${count === 1 ? "is" : "are"} left as ${count === 1 ? "it is" : "they are"} (${what}): the ${settingFor(key).short} is not changed there.`,
  }));
}
