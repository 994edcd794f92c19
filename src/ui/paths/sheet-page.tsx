"use client";
/** A sheet's page: loads it, and its desk with the formulas' library behind it. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { api } from "../common/api";
import { keys } from "../common/keys";
import { LinkButton } from "../common/link-button";
import { Loading } from "../common/loading";
import { NoPrinter } from "../common/no-printer";
import { useBenchPair } from "../common/queries";
import type { KeptSheet } from "./kept-sheet";
import type { SheetDesk } from "./sheet-desk";

/** The desk with the formulas' library behind it, once it is there; the page says meanwhile what it is about. */
function useDesk() {
  const [desk, setDesk] = useState<typeof SheetDesk | null>(null);
  useEffect(() => {
    let isHere = true;
    void import("./sheet-desk").then((module) => isHere && setDesk(() => module.SheetDesk));
    return () => {
      isHere = false;
    };
  }, []);
  return desk;
}

export function SheetPage({ id }: { id: number }) {
  const { data, error } = useQuery({
    queryKey: keys.sheet(id),
    queryFn: () => api.get<KeptSheet>(`/sheets/${id}`),
    gcTime: 0,
    staleTime: Infinity,
    retry: false,
  });
  const { printer, spool } = useBenchPair();
  const Desk = useDesk();
  if (error) {
    return (
      <div className="empty" role="alert">
        <h1>This sheet is not here</h1>
        <p>{error.message}</p>
        <LinkButton href="/paths">All sheets</LinkButton>
      </div>
    );
  }
  if (!data || printer === undefined || spool === undefined) return <Loading rows={12} />;
  if (printer === null || spool === null) return <NoPrinter />;
  if (!Desk) {
    return (
      <>
        <h1>{data.name}</h1>
        <Loading rows={12} />
      </>
    );
  }
  return <Desk key={id} loaded={data} printer={printer} spool={spool} />;
}
