"use client";
/** Follows what is changed on other pages, and says what is wrong with the database. */
import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { api, ApiError } from "../common/api";
import { keysOf } from "../common/keys";
import { isOwn } from "../common/own-changes";

const EVERY_MS = 2500;

interface Answer {
  next: number;
  all: boolean;
  changes: { number: number; what: string; id: number }[];
  trouble: string | null;
  unreadable: string[];
}

export function Follow() {
  const client = useQueryClient();
  const [told, setTold] = useState<{ trouble: string | null; unreadable: string[] }>({ trouble: null, unreadable: [] });
  const next = useRef<number | null>(null);
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout>;
    let ended = false;
    const look = async () => {
      if (!document.hidden) {
        try {
          const answer = await api.get<Answer>(`/changes?after=${next.current ?? 0}`);
          if (next.current !== null) {
            if (answer.all) void client.invalidateQueries();
            for (const { what, id } of answer.changes.filter((change) => !isOwn(change.what, change.id)))
              for (const queryKey of keysOf[what]?.(id) ?? []) void client.invalidateQueries({ queryKey });
          }
          next.current = answer.next;
          setTold({ trouble: answer.trouble, unreadable: answer.unreadable });
        } catch (error) {
          const message = error instanceof ApiError ? error.message : "Cuchara doesn't answer. Is it still running?";
          setTold((now) => ({ ...now, trouble: message }));
        }
      }
      if (!ended) timer = setTimeout(() => void look(), EVERY_MS);
    };
    const soon = () => {
      if (document.hidden) return;
      clearTimeout(timer);
      void look();
    };
    void look();
    document.addEventListener("visibilitychange", soon);
    return () => {
      ended = true;
      clearTimeout(timer);
      document.removeEventListener("visibilitychange", soon);
    };
  }, [client]);
  if (told.trouble) {
    return (
      <div className="finding stop told" role="alert">
        {told.trouble}
      </div>
    );
  }
  if (told.unreadable.length === 0) return null;
  return (
    <div className="finding told" role="status">
      {told.unreadable.slice(0, 2).join(" ")}
      {told.unreadable.length > 2 && ` And ${told.unreadable.length - 2} more.`}
    </div>
  );
}
