"use client";
import type { ScaledKind, ScaleEdit } from "@/core/edits/scale";
import { USUAL_FILAMENT_MM2 } from "@/core/material/bead";
import { Choice } from "../../common/choice";
import { NumberField } from "../../common/number-field";
import { ScopeFields } from "./scope-fields";
import type { Sentence, SentenceProps } from "./sentence";

const kindLabels: Record<ScaledKind, string> = {
  "outer-wall": "outer walls",
  "inner-wall": "inner walls",
  solid: "solid fill",
  sparse: "sparse fill",
  bridge: "bridges",
  support: "support",
  skirt: "skirt and brim",
  prime: "priming",
  travel: "travels",
};

type Scale = ScaleEdit<"scale-speed" | "scale-flow">;

function Blanks({ edit, report, printer, onChange }: SentenceProps<Scale>) {
  const isSpeed = edit.kind === "scale-speed";
  const kinds = (Object.keys(kindLabels) as ScaledKind[]).filter((kind) => isSpeed || kind !== "travel");
  return (
    <>
      {isSpeed ? "The speed of" : "The flow of"}
      <Choice<ScaledKind>
        label="Which lines"
        small
        value={edit.lines?.[0] ?? null}
        hint="everything that is laid"
        options={kinds.map((value) => ({ value, label: kindLabels[value] }))}
        onChange={(kind) => onChange({ ...edit, lines: [kind] })}
        onClear={() => onChange({ ...edit, lines: undefined })}
      />
      is
      <NumberField
        label="Percent"
        value={edit.percent}
        unit="%"
        low={10}
        high={500}
        decimals={1}
        width={48}
        onChange={(percent) => onChange({ ...edit, percent })}
      />
      <ScopeFields
        scope={edit}
        report={report}
        onChange={(scope) => {
          const { kind, percent, lines, by, off } = edit as Scale & { off?: true };
          onChange({ kind, percent, lines, by, ...(off ? { off } : {}), ...scope } as Scale);
        }}
      />
      <Choice
        label="How it is said"
        small
        value={edit.by ?? "lines"}
        options={[
          { value: "lines", label: isSpeed ? "in the feeds themselves" : "in the filament itself" },
          { value: "factors", label: isSpeed ? "by the feed factor" : "by the flow factor" },
        ]}
        onChange={(by) => onChange({ ...edit, by: by as "lines" | "factors" })}
      />
      {printer && (
        <span className="dim">
          <FlowLimit edit={edit} report={report} printer={printer} /> flow now and then, and what the hot end melts
        </span>
      )}
    </>
  );
}

const LIMIT_PX = 160;

/** What the hottest layer asks of the hot end now, and what it would ask, against what it melts. */
function FlowLimit({
  edit,
  report,
  printer,
}: Pick<SentenceProps<Scale>, "edit" | "report"> & { printer: { highestFlowMm3S: number; name: string } }) {
  const now =
    report.layers.reduce((most, { peakFilamentMmS }) => Math.max(most, peakFilamentMmS), 0) * USUAL_FILAMENT_MM2;
  const then = (now * edit.percent) / 100;
  const most = printer.highestFlowMm3S;
  const px = (flow: number) => (LIMIT_PX * flow) / Math.max(now, then, most * 1.1);
  const says = `At most ${now.toFixed(1)} mm³/s now, up to ${then.toFixed(1)} if the fastest lines are among them; ${printer.name} melts about ${most} mm³/s`;
  return (
    <svg width={LIMIT_PX + 4} height={20} role="img" aria-label={says}>
      <title>{says}</title>
      <rect x={0} y={3} width={px(now)} height={5} fill="var(--base)" />
      <rect x={0} y={11} width={px(then)} height={5} fill={then > most ? "var(--bad)" : "var(--primary)"} />
      <line x1={px(most)} x2={px(most)} y1={0} y2={20} stroke="var(--mustard)" strokeWidth={2} />
    </svg>
  );
}

const short = (what: string) => (edit: Scale) => `${edit.lines ? kindLabels[edit.lines[0]] : what} ${edit.percent} %`;

export const scaleSpeedSentence: Sentence<"scale-speed"> = {
  begin: "Speed",
  words: "feed faster slower scale M220",
  short: short("speed"),
  fresh: () => ({ kind: "scale-speed", percent: 80 }),
  blanks: (props) => <Blanks {...(props as unknown as SentenceProps<Scale>)} />,
};

export const scaleFlowSentence: Sentence<"scale-flow"> = {
  begin: "Flow",
  words: "extrusion filament multiplier more less scale M221",
  short: short("flow"),
  fresh: () => ({ kind: "scale-flow", percent: 95 }),
  blanks: (props) => <Blanks {...(props as unknown as SentenceProps<Scale>)} />,
};
