"use client";
import type { FindEdit } from "@/core/edits/kinds/find";
import { Choice } from "../../common/choice";
import { NumberField } from "../../common/number-field";
import { TextField } from "../../common/text-field";
import { ScopeFields } from "./scope-fields";
import type { Sentence } from "./sentence";

const looks = ["text", "command", "regexp"] as const;
type Look = (typeof looks)[number];
const lookLabels: Record<Look, string> = { text: "the text", command: "the command", regexp: "the expression" };

const acts = ["comment", "delete", "replaceWith", "setWord", "scaleWord", "shiftWord", "before", "after"] as const;
type ActKey = (typeof acts)[number];
const actLabels: Record<ActKey, string> = {
  comment: "kept as comments",
  delete: "taken out",
  replaceWith: "replaced with",
  setWord: "given the word",
  scaleWord: "scaled in the word",
  shiftWord: "shifted in the word",
  before: "preceded by",
  after: "followed by",
};

const usual: { [K in ActKey]: FindEdit["act"] } = {
  comment: { comment: "left out" },
  delete: { delete: true },
  replaceWith: { replaceWith: "" },
  setWord: { setWord: { word: "S", value: 0 } },
  scaleWord: { scaleWord: { word: "S", by: 0.9 } },
  shiftWord: { shiftWord: { word: "S", by: -5 } },
  before: { before: ["G4 P1"] },
  after: { after: ["G4 P1"] },
};

const parts = [
  { value: "all", label: "anywhere" },
  { value: "start", label: "at the start" },
  { value: "print", label: "in the print" },
  { value: "end", label: "at the end" },
] as const;

export const findSentence: Sentence<"find"> = {
  begin: "Lines with …",
  words: "search replace text line command word comment out delete",
  short: ({ find }) => find.command ?? find.text ?? find.regexp ?? "lines",
  fresh: () => ({ kind: "find", find: { command: "M106" }, scope: {}, act: { comment: "left out" } }),
  blanks: ({ edit, report, onChange }) => {
    const look = looks.find((one) => edit.find[one] !== undefined) ?? "text";
    const act = acts.find((one) => edit.act[one] !== undefined) ?? "comment";
    const { part = "all", ...scope } = edit.scope;
    return (
      <>
        Lines with
        <Choice
          label="What is looked for"
          small
          value={look}
          options={looks.map((value) => ({ value, label: lookLabels[value] }))}
          onChange={(next) =>
            onChange({ ...edit, find: { [next]: next === "command" ? "M106" : (edit.find[look] ?? "") } })
          }
        />
        <TextField
          aria-label="What to look for"
          value={edit.find[look] ?? ""}
          maxLength={500}
          onChange={(text) =>
            onChange({ ...edit, find: { ...edit.find, [look]: look === "command" ? text.toUpperCase().trim() : text } })
          }
        />
        {look === "command" && <Conditions edit={edit} onChange={onChange} />}
        <Choice
          label="In which part"
          small
          value={part}
          options={[...parts]}
          onChange={(next) =>
            onChange({ ...edit, scope: next === "all" ? scope : { ...scope, part: next as "print" } })
          }
        />
        <ScopeFields
          scope={edit.scope}
          report={report}
          onChange={(next) => onChange({ ...edit, scope: part === "all" ? next : { ...next, part } })}
        />
        are
        <Choice
          label="What is made of them"
          small
          value={act}
          options={acts.map((value) => ({ value, label: actLabels[value] }))}
          onChange={(next) => onChange({ ...edit, act: usual[next as ActKey] })}
        />
        <ActFields act={act} edit={edit} onChange={onChange} />
      </>
    );
  },
};

interface FieldsProps {
  edit: Parameters<(typeof findSentence)["blanks"]>[0]["edit"];
  onChange(edit: FieldsProps["edit"]): void;
}

/** One condition on a word of the command: enough for what people look for. */
function Conditions({ edit, onChange }: FieldsProps) {
  const [condition] = edit.find.where ?? [];
  const set = (next: typeof condition | null) =>
    onChange({ ...edit, find: { ...edit.find, where: next ? [next] : undefined } });
  return (
    <>
      <Choice
        label="On which word"
        small
        value={condition?.word ?? null}
        hint="whatever its words"
        options={["S", "P", "F", "E", "X", "Y", "Z", "T"].map((value) => ({ value, label: `with ${value}` }))}
        onChange={(word) => set({ word, is: condition?.is ?? ">", value: condition?.value ?? 0 })}
        onClear={() => set(null)}
      />
      {condition && (
        <>
          <Choice
            label="How the word is"
            small
            value={condition.is}
            options={[
              { value: ">", label: "above" },
              { value: "<", label: "below" },
              { value: "=", label: "of" },
              { value: "any", label: "of any value" },
            ]}
            onChange={(is) => set({ ...condition, is: is as ">" })}
          />
          {condition.is !== "any" && (
            <NumberField
              label="Value of the word"
              value={condition.value}
              unit=""
              low={-100_000}
              high={100_000}
              decimals={4}
              width={56}
              onChange={(value) => set({ ...condition, value })}
            />
          )}
        </>
      )}
    </>
  );
}

function ActFields({ act, edit, onChange }: FieldsProps & { act: ActKey }) {
  const set = (next: FindEdit["act"]) => onChange({ ...edit, act: next });
  switch (act) {
    case "comment":
      return (
        <TextField
          aria-label="Note in the comment"
          value={edit.act.comment ?? ""}
          maxLength={200}
          onChange={(comment) => set({ comment })}
        />
      );
    case "replaceWith":
      return (
        <TextField
          aria-label="Replaced with"
          value={edit.act.replaceWith ?? ""}
          maxLength={500}
          onChange={(replaceWith) => set({ replaceWith })}
        />
      );
    case "before":
    case "after":
      return (
        <TextField
          aria-label="Lines to put there, parted by |"
          value={(edit.act[act] ?? []).join(" | ")}
          onChange={(text) =>
            set({
              [act]: text
                .split("|")
                .map((line) => line.trim())
                .filter(Boolean),
            })
          }
        />
      );
    case "setWord":
    case "scaleWord":
    case "shiftWord": {
      const { word } = edit.act[act]!;
      const value = act === "setWord" ? edit.act.setWord!.value : edit.act[act]!.by;
      const say = (letter: string, figure: number) =>
        set({ [act]: act === "setWord" ? { word: letter, value: figure } : { word: letter, by: figure } });
      return (
        <>
          <TextField
            aria-label="Word"
            value={word}
            maxLength={1}
            onChange={(letter) => /^[A-Za-z]$/.test(letter) && say(letter.toUpperCase(), value)}
          />
          {act === "setWord" ? "of" : act === "scaleWord" ? "times" : "by"}
          <NumberField
            label="Number"
            value={value}
            unit=""
            low={-100_000}
            high={100_000}
            decimals={4}
            width={56}
            onChange={(figure) => say(word, figure)}
          />
        </>
      );
    }
    default:
      return null;
  }
}
