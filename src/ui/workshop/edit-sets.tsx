"use client";
/** Stacks of edits kept for other files: kept under a name, laid over this one, written out and read as JSON; and the outcome as a file of its own. */
import { useQuery } from "@tanstack/react-query";
import { Button, Modal } from "antd";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { Edit, editsSchema } from "@/core/edits";
import { api, ApiError } from "../common/api";
import { Choice } from "../common/choice";
import { keys } from "../common/keys";
import { PickFile } from "../common/pick-file";
import { useTell } from "../common/talk";
import { TextField } from "../common/text-field";
import { useAct } from "../common/use-act";
import { shortOf } from "./sentences";
import type { FilePageState } from "./use-file-page";

interface KeptSet {
  id: number;
  name: string;
  edits: Edit[];
}

export function EditSets({ page }: { page: FilePageState }) {
  const { stack, change, file, waiting, problem } = page;
  const sets = useQuery({ queryKey: keys.editSets, queryFn: () => api.get<KeptSet[]>("/edit-sets") });
  const [isKeeping, setKeeping] = useState(false);
  const router = useRouter();
  const tell = useTell();
  const { act } = useAct();
  const take = (edits: Edit[], from: string) => {
    change([...stack, ...edits]);
    tell.done(
      `${edits.length === 1 ? "One edit" : `${edits.length} edits`} of ${from} are applied to this file now; each is checked on it.`,
    );
  };
  const read = async (chosen: File) => {
    const parsed = editsSchema.safeParse(await jsonOf(chosen));
    if (parsed.success) take(parsed.data, `“${chosen.name}”`);
    else tell.error(new ApiError(400, `“${chosen.name}” is no set of edits: ${parsed.error.issues[0].message}`));
  };
  return (
    <section className="card" aria-label="Sets of edits">
      <h2>For other files</h2>
      <div className="stack">
        {stack.length > 0 && (
          <>
            <Button block disabled={problem !== null} onClick={() => setKeeping(true)}>
              Keep these edits
            </Button>
            <Button
              block
              disabled={waiting || problem !== null}
              onClick={() =>
                void act(async () => {
                  const { id } = await api.post<{ id: number }>(`/files/${file.id}/save`, {});
                  router.push(`/workshop/${id}`);
                })
              }
            >
              Open the result as a file
            </Button>
            <a
              className="link-button"
              href={`data:application/json;charset=utf-8,${encodeURIComponent(JSON.stringify(stack, null, 2))}`}
              download={`${file.name.replace(/\.\w+$/, "")}-edits.json`}
            >
              Write them out (JSON)
            </a>
          </>
        )}
        {(sets.data?.length ?? 0) > 0 && (
          <Choice
            label="Use kept edits on this file"
            value={null}
            hint="Use kept edits …"
            options={sets.data!.map(({ id, name, edits }) => ({
              value: id,
              label: `${name}: ${edits.map(shortOf).join(", ")}`,
            }))}
            onChange={(id) => {
              const kept = sets.data!.find((one) => one.id === id)!;
              take(kept.edits, `“${kept.name}”`);
            }}
          />
        )}
        <PickFile block label="Edits as JSON" accept=".json,application/json" onPick={([chosen]) => void read(chosen)}>
          Read edits (JSON)
        </PickFile>
      </div>
      {isKeeping && <KeepDialog edits={stack} sets={sets.data ?? []} onClose={() => setKeeping(false)} />}
    </section>
  );
}

async function jsonOf(chosen: File): Promise<unknown> {
  try {
    return JSON.parse(await chosen.text());
  } catch {
    return null;
  }
}

function KeepDialog({ edits, sets, onClose }: { edits: readonly Edit[]; sets: readonly KeptSet[]; onClose(): void }) {
  const [name, setName] = useState(edits.map(shortOf).join(", ").slice(0, 100));
  const tell = useTell();
  const { act } = useAct();
  const keep = () =>
    void act(async () => {
      await api.post("/edit-sets", { name, edits });
      tell.done(`“${name.trim()}” is kept: use it on any opened file.`);
      onClose();
    });
  const remove = (id: number, called: string) =>
    void act(async () => {
      await api.remove(`/edit-sets/${id}`);
      tell.undo(`“${called}” is removed.`, async () => void (await api.post(`/edit-sets/${id}/restore`)));
    });
  return (
    <Modal
      open
      title="Keep these edits for other files"
      okText="Keep"
      onOk={keep}
      onCancel={onClose}
      okButtonProps={{ disabled: name.trim() === "" }}
    >
      <TextField aria-label="Name of the set" value={name} maxLength={100} onChange={setName} />
      {sets.length > 0 && (
        <ul className="rows">
          {sets.map((one) => (
            <li key={one.id} className="spread">
              {one.name}
              <button
                className="link-button"
                onClick={() => remove(one.id, one.name)}
                aria-label={`Remove ${one.name}`}
              >
                remove
              </button>
            </li>
          ))}
        </ul>
      )}
    </Modal>
  );
}
