"use client";
/** What the printer's views ask for. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import type { LinkStatus, ValueChange, ValueSnapshot } from "@/core/link/state";
import { api } from "../common/api";
import { useTell } from "../common/queries";

const EVERY_MS = 2000;

/** The state of all links of this program, looked at every two seconds. Nothing is sent to a printer for it. */
export const useLinks = () =>
  useQuery({
    queryKey: ["links"],
    queryFn: () => api.get<LinkStatus[]>("/link"),
    refetchInterval: EVERY_MS,
    retry: false,
  });

export interface FirmwareValuesAnswer {
  snapshots: ValueSnapshot[];
  changes: ValueChange[];
}

export const useFirmwareValues = (printerId: number) =>
  useQuery({
    queryKey: ["firmware", printerId],
    enabled: printerId > 0,
    queryFn: () => api.get<FirmwareValuesAnswer>(`/link/values?printerId=${printerId}`),
  });

/** Asks the server to do something at a printer and shows what goes wrong; what is known of links is looked at anew. */
export function usePrinterAct() {
  const client = useQueryClient();
  const tell = useTell();
  return useMutation({
    mutationFn: ({ path, body }: { path: string; body: unknown }) => api.post<unknown>(path, body),
    onError: tell.error,
    onSettled: () => client.invalidateQueries({ queryKey: ["links"] }),
  });
}
