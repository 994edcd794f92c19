"use client";
/** A sheet's page: loads it, and its desk with the formulas' library behind it. */
import { useQuery } from "@tanstack/react-query";
import dynamic from "next/dynamic";
import { createElement } from "react";
import { api } from "../common/api";
import { keys } from "../common/keys";
import { LinkButton } from "../common/link-button";
import { Loading } from "../common/loading";
import { NoPrinter } from "../common/no-printer";
import { useBenchPair } from "../common/queries";
import type { KeptSheet } from "./kept-sheet";

const SheetDesk = dynamic(() => import("./sheet-desk").then((module) => module.SheetDesk), {
  ssr: false,
  loading: () => createElement(Loading, { rows: 12 }),
});

export function SheetPage({ id }: { id: number }) {
  const { data, error } = useQuery({
    queryKey: keys.sheet(id),
    queryFn: () => api.get<KeptSheet>(`/sheets/${id}`),
    gcTime: 0,
    staleTime: Infinity,
    retry: false,
  });
  const { printer, spool } = useBenchPair();
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
  return <SheetDesk key={id} loaded={data} printer={printer} spool={spool} />;
}
