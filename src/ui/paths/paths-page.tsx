"use client";
/** All sheets, and those that ship to begin with. */
import { useQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { PointedLink } from "../common/pointed-link";
import { useRouter } from "next/navigation";
import type { Thumbnail } from "@/core/laid/thumbnail";
import { emptySheet, exampleSheets } from "@/core/sheets/examples";
import type { Sheet } from "@/core/sheets/sheet";
import { api, ApiError } from "../common/api";
import { keys } from "../common/keys";
import { LazyPicture, PictureBox } from "../common/lazy-picture";
import { Loading } from "../common/loading";
import { PickFile } from "../common/pick-file";
import { useRemoveWithUndo } from "../common/queries";
import { useAct } from "../common/use-act";
import styles from "./paths-page.module.css";
import type { KeptSheet } from "./kept-sheet";

/** Room for the drawing of a sheet in the list, and of one that ships. */
const FACE = { widthPx: 64, heightPx: 44 };
const EXAMPLE = { widthPx: 172, heightPx: 132 };

export function PathsPage() {
  const sheets = useQuery({ queryKey: keys.sheets, queryFn: () => api.get<KeptSheet[]>("/sheets") });
  const pictures = useQuery({
    queryKey: keys.exampleSheets,
    queryFn: () => api.get<{ thumbnail: Thumbnail | null }[]>("/sheets/examples"),
    staleTime: 60_000,
  });
  const remove = useRemoveWithUndo("/sheets", "sheets");
  const { busy, act } = useAct();
  const router = useRouter();
  const begin = (sheet: Sheet) =>
    act(async () => {
      const { id } = await api.post<KeptSheet>("/sheets", sheet);
      router.push(`/paths/${id}`);
    });
  const readIn = (file: File) =>
    act(async () => {
      const text = await file.text();
      let sheet: Sheet;
      try {
        sheet = JSON.parse(text) as Sheet;
      } catch {
        throw new ApiError(400, `“${file.name}” isn't a sheet file: it is not valid JSON.`);
      }
      const { id } = await api.post<KeptSheet>("/sheets", sheet);
      router.push(`/paths/${id}`);
    });
  return (
    <>
      <h1>Paths</h1>
      <p className="sub">A print from numbers, strokes and repeats: no model, no slicing, drawn as you type.</p>
      <p className="line above">
        <Button type="primary" loading={busy} onClick={() => void begin(emptySheet)}>
          New sheet
        </Button>
        <PickFile
          label="A sheet as JSON"
          accept=".json,application/json"
          disabled={busy}
          onPick={([file]) => void readIn(file)}
        >
          Read a sheet in (JSON)
        </PickFile>
      </p>
      {sheets.isLoading && <Loading />}
      {(sheets.data?.length ?? 0) > 0 && (
        <ul className="rows section" aria-label="Sheets">
          {[...sheets.data!].reverse().map(({ id, name, items, figures, revision }) => (
            <li key={id} className="list-row" style={{ gridTemplateColumns: "64px minmax(0, 1fr) auto auto" }}>
              <LazyPicture path={`/sheets/${id}`} version={revision} box={FACE} />
              <PointedLink className="title" href={`/paths/${id}`}>
                {name}
              </PointedLink>
              <span className="dim">
                {figures.length} {figures.length === 1 ? "figure" : "figures"}, {items.length}{" "}
                {items.length === 1 ? "row" : "rows"}
              </span>
              <button
                className="link-button"
                aria-label={`Remove ${name}`}
                onClick={() => void remove(id, `“${name}”`)}
              >
                Remove
              </button>
            </li>
          ))}
        </ul>
      )}
      <section className="section" aria-label="To begin with">
        <h2>To begin with</h2>
        <ul className={styles.examples}>
          {exampleSheets.map((sheet, i) => (
            <li key={sheet.name}>
              <button className={styles.example} disabled={busy} onClick={() => void begin(sheet)}>
                <PictureBox picture={pictures.data?.[i]?.thumbnail} box={EXAMPLE} />
                <span>
                  <span className="visually-hidden">Begin with </span>
                  {sheet.name}
                </span>
              </button>
            </li>
          ))}
        </ul>
      </section>
    </>
  );
}
