"use client";
/** Opened files, and the place to drop another. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Button, Progress } from "antd";
import { PointedLink } from "../common/pointed-link";
import { useRouter, useSearchParams } from "next/navigation";
import { DragEvent, useRef, useState } from "react";
import { plainNumber, sayBytes, sayDuration } from "@/core/units";
import { When } from "../common/when";
import { useListFilter } from "../common/list-filter";
import { LongList } from "../common/long-list";
import { useShelfNames } from "../common/use-shelf-names";
import { LazyPicture } from "../common/lazy-picture";
import { Loading } from "../common/loading";
import { api, ApiError } from "../common/api";
import { useRemoveWithUndo, useTrials } from "../common/queries";
import { Upload, upload } from "./upload";
import { keys } from "../common/keys";
import { useAct } from "../common/use-act";
import styles from "./workshop-page.module.css";

export interface ListedFile {
  id: number;
  name: string;
  sizeBytes: number;
  printerId: number | null;
  createdAt: string;
  summary: { layers: number; topMm: number; seconds: number; filamentMm: number; cucharaLines: number } | null;
  edits: unknown[];
  /** It was written here. */
  written: boolean;
  version: number;
}

const ROW_PX = 71;
/** Room for the silhouette of a file. */
const FACE = { widthPx: 84, heightPx: 46 };
const NONE: ListedFile[] = [];
const MOST_BYTES = 200_000_000;

export function WorkshopPage() {
  const files = useQuery({ queryKey: keys.files, queryFn: () => api.get<ListedFile[]>("/files") });
  const plan = useSearchParams().get("plan");
  const trial = useTrials().data?.find(({ id }) => String(id) === plan);
  const suffix = trial ? `?plan=${trial.id}` : "";
  return (
    <>
      <h1>Workshop</h1>
      <p className="sub">
        {trial
          ? `Choose the file that “${trial.name}” goes onto, or drop another one.`
          : "Open a file that was sliced elsewhere and put a plan on it. The original is never touched."}
      </p>
      <DropPlace suffix={suffix} />
      {!trial && <NewProgram />}
      {files.isLoading && <Loading />}
      {files.error && (
        <div className="empty" role="alert">
          The files could not be loaded. <Button onClick={() => void files.refetch()}>Try again</Button>
        </div>
      )}
      <Files files={files.data ?? NONE} suffix={suffix} />
    </>
  );
}

/** Which files a state picks out. */
const stateOf = ({ edits, summary }: ListedFile) =>
  edits.length > 0 ? "edited" : summary && summary.cucharaLines > 0 ? "planned" : "plain";

const byState = {
  label: "Any state",
  of: stateOf,
  options: [
    { value: "plain", label: "as it was sliced" },
    { value: "edited", label: "with edits" },
    { value: "planned", label: "an earlier plan in it" },
  ],
};

/** A program without layers has nothing but its text. */
const hrefOf = ({ id, written }: ListedFile, suffix: string) =>
  written ? `/workshop/program/${id}` : `/workshop/${id}${suffix}`;

const wordsOf = ({ name }: ListedFile) => name;

function Files({ files, suffix }: { files: ListedFile[]; suffix: string }) {
  const remove = useRemoveWithUndo("/files", "files");
  const nameOf = useShelfNames();
  const { found, fields } = useListFilter(files, wordsOf, [nameOf.byPrinter, byState]);
  if (files.length === 0) return null;
  return (
    <div className="section">
      {fields}
      {found.length === 0 && <div className="empty">No file fits. Choose less, or search for something else.</div>}
      <LongList
        label="Opened files"
        rows={found}
        rowPx={ROW_PX}
        className={`list-row ${styles.file}`}
        keyOf={({ id }) => id}
      >
        {(file) => (
          <>
            {file.summary && file.summary.layers > 0 ? (
              <LazyPicture path={`/files/${file.id}`} version={file.written ? file.version : 0} box={FACE} />
            ) : (
              <span />
            )}
            <div className="long-title">
              <PointedLink className="title" href={hrefOf(file, suffix)}>
                {file.name}
              </PointedLink>
              <div className="dim">
                {sayBytes(file.sizeBytes)}, {file.written ? "written" : "opened"}{" "}
                <When at={file.createdAt} format="D MMM, HH:mm" />
              </div>
            </div>
            <span className="dim mono">
              {file.summary &&
                file.summary.layers > 0 &&
                `${file.summary.layers} ${file.summary.layers === 1 ? "layer" : "layers"}, ${plainNumber(file.summary.topMm, 2)} mm, ${sayDuration(file.summary.seconds)}`}
            </span>
            <span className="dim">
              {file.edits.length > 0 && `${file.edits.length} edit${file.edits.length > 1 ? "s" : ""} on it. `}
              {file.summary && file.summary.cucharaLines > 0 && file.edits.length === 0 && "An earlier plan is in it."}
            </span>
            <button
              className="link-button"
              aria-label={`Remove ${file.name}`}
              onClick={() => void remove(file.id, `“${file.name}”`)}
            >
              Remove
            </button>
          </>
        )}
      </LongList>
    </div>
  );
}

/** A program from nothing: kept at once, and written on its own page. */
function NewProgram() {
  const router = useRouter();
  const { busy, act } = useAct();
  const begin = () =>
    act(async () => {
      const { id } = await api.post<{ id: number }>("/programs", { name: "New program.gcode", text: "" });
      router.push(`/workshop/program/${id}`);
    });
  return (
    <p className="section">
      <Button loading={busy} onClick={() => void begin()}>
        New program
      </Button>{" "}
      <span className="dim">Written from scratch, drawn as you type.</span>
    </p>
  );
}

interface Sending {
  name: string;
  share: number;
  upload: Upload;
}

function DropPlace({ suffix }: { suffix: string }) {
  const input = useRef<HTMLInputElement>(null);
  const router = useRouter();
  const client = useQueryClient();
  const [over, setOver] = useState(false);
  const [sending, setSending] = useState<Sending | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const take = async (file: File | undefined) => {
    if (!file) return;
    setProblem(null);
    if (file.size > MOST_BYTES) {
      setProblem(
        `“${file.name}” is ${plainNumber(file.size / 1e6, 0)} MB; at most ${MOST_BYTES / 1e6} MB can be opened.`,
      );
      return;
    }
    const started = upload(file, (share) => setSending((now) => now && { ...now, share }));
    setSending({ name: file.name, share: 0, upload: started });
    try {
      const { id } = await started.done;
      await client.invalidateQueries({ queryKey: keys.files });
      router.push(`/workshop/${id}${suffix}`);
    } catch (error) {
      setSending(null);
      if (!(error instanceof ApiError && error.status === 499)) {
        setProblem(error instanceof ApiError ? error.message : "The file could not be opened.");
      }
    }
  };
  const drop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    void take(event.dataTransfer.files[0]);
  };
  return (
    <div
      className={`empty ${styles.drop}`}
      data-over={over}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
    >
      {sending ? (
        <>
          <p>{sending.share < 1 ? `Taking in “${sending.name}” …` : `Reading the layers of “${sending.name}” …`}</p>
          <Progress
            percent={Math.round(sending.share * 100)}
            status={sending.share < 1 ? "normal" : "active"}
            className={styles.progress}
            aria-label="Progress"
          />
          <Button onClick={() => sending.upload.cancel()}>Cancel</Button>
        </>
      ) : (
        <>
          <p>
            Drop a sliced <span className="mono">.gcode</span> file here, up to 200 MB.
          </p>
          <Button className="go" size="large" onClick={() => input.current?.click()}>
            Choose a file
          </Button>
          <input
            ref={input}
            type="file"
            accept=".gcode,.gco,.g,.nc,.txt"
            aria-label="Sliced file"
            className="visually-hidden"
            tabIndex={-1}
            onChange={(event) => void take(event.target.files?.[0])}
          />
        </>
      )}
      {problem && (
        <p className={`field-error ${styles.problem}`} role="alert">
          {problem}
        </p>
      )}
    </div>
  );
}
