"use client";
/** The piece of a file from the front, by what is laid; as wide as its material until that has come. */
import { useQuery } from "@tanstack/react-query";
import { createElement, useMemo } from "react";
import type { Front } from "@/core/laid/front";
import type { ProgramReport } from "@/core/report/report";
import { api } from "../common/api";
import { keys } from "../common/keys";
import type { LogColumn } from "../heightlog/column";
import { frontColumn, sayStretch } from "../heightlog/columns/front";
import { outlineColumn } from "../heightlog/columns/outline";

export function useFrontColumn(fileId: number, { layers }: ProgramReport, widthPx: number): LogColumn {
  const { data } = useQuery({
    queryKey: keys.fileFront(fileId),
    queryFn: () => api.get<Front>(`/files/${fileId}/front`),
    staleTime: Infinity,
    retry: false,
  });
  return useMemo(() => {
    const title = "Seen from the front";
    if (!data) {
      const [minX, maxX] = [layers.map((one) => one.minX), layers.map((one) => one.maxX)];
      return outlineColumn({ title, widthPx, minX, maxX });
    }
    const { widthMm, rectangles } = data;
    // Heights are what a file is looked at for: they fill the log, whatever the piece's width.
    return {
      ...frontColumn({ title, widthPx, front: Float32Array.from(rectangles), widthMm }),
      toScaleMm: undefined,
      head: ({ scale }) => createElement("small", null, sayStretch(scale, widthMm, widthPx).replace(/^, /, "")),
    };
  }, [data, layers, widthPx]);
}
