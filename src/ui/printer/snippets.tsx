"use client";
/** Lines kept under a name: taken, added to and removed. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api } from "../common/api";
import { Choice } from "../common/choice";
import { Chooser, MenuChoice } from "../common/chooser";
import { keys } from "../common/keys";
import { useAsk } from "../common/talk";
import { TextField } from "../common/text-field";
import { useAct } from "../common/use-act";

interface Snippet {
  id: number;
  name: string;
  lines: string[];
}

const count = (lines: string[]) => (lines.length === 1 ? "1 line" : `${lines.length} lines`);

interface Props {
  /** What is typed now. */
  lines: string[];
  onTake(lines: string[]): void;
}

function NameOfSnippet({ first, onName }: { first: string; onName(name: string): void }) {
  const [name, setName] = useState(first);
  return (
    <TextField
      className="wide"
      aria-label="Name of the snippet"
      value={name}
      onChange={(next) => {
        setName(next);
        onName(next);
      }}
    />
  );
}

function WhichSnippet({ snippets, onChoose }: { snippets: Snippet[]; onChoose(id: number): void }) {
  const [id, setId] = useState(snippets[0].id);
  return (
    <Choice
      className="wide"
      label="Which snippet"
      value={id}
      options={snippets.map((one) => ({ value: one.id, label: `${one.name} (${count(one.lines)})` }))}
      onChange={(next) => {
        setId(next);
        onChoose(next);
      }}
    />
  );
}

export function Snippets({ lines, onTake }: Props) {
  const client = useQueryClient();
  const ask = useAsk();
  const { act } = useAct();
  const snippets = useQuery({ queryKey: keys.snippets, queryFn: () => api.get<Snippet[]>("/snippets") }).data ?? [];
  const change = (work: () => Promise<unknown>) =>
    act(async () => {
      await work();
      await client.invalidateQueries({ queryKey: keys.snippets });
    });
  const save = async () => {
    let name = lines[0].slice(0, 40);
    const sure = await ask({
      title: `Save ${lines.length === 1 ? "this line" : `these ${lines.length} lines`}`,
      content: <NameOfSnippet first={name} onName={(next) => (name = next)} />,
      okText: "Save",
    });
    if (sure) await change(() => api.post("/snippets", { name, lines }));
  };
  const remove = async () => {
    let id = snippets[0].id;
    const sure = await ask({
      title: "Remove a snippet",
      content: <WhichSnippet snippets={snippets} onChoose={(next) => (id = next)} />,
      okText: "Remove",
      isDestructive: true,
    });
    if (sure) await change(() => api.remove(`/snippets/${id}`));
  };
  const choices: MenuChoice<number | "save" | "remove">[] = [
    ...snippets.map(({ id, name, lines: own }) => ({ key: id, label: `${name} (${count(own)})` })),
    { key: "save", label: "Save what is typed", disabled: lines.length === 0 },
    ...(snippets.length > 0 ? [{ key: "remove" as const, label: "Remove one …" }] : []),
  ];
  return (
    <Chooser
      choices={choices}
      onChoose={(key) => {
        if (key === "save") return void save();
        if (key === "remove") return void remove();
        onTake(snippets.find(({ id }) => id === key)?.lines ?? []);
      }}
    >
      Snippets
    </Chooser>
  );
}
