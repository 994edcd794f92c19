"use client";
/** What the printer's views ask for. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import type { LinkStatus, ValueChange, ValueSnapshot } from "@/core/link/state";

import { api, ApiError } from "../common/api";

import { keys } from "../common/keys";
import { useAsk, useTell } from "../common/talk";

const EVERY_MS = 2000;

/** The state of all links of this program, looked at every two seconds. Nothing is sent to a printer for it. */
export const useLinks = () =>
  useQuery({
    queryKey: keys.links,
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
    queryKey: keys.firmware(printerId),
    enabled: printerId > 0,
    queryFn: () => api.get<FirmwareValuesAnswer>(`/link/values?printerId=${printerId}`),
  });

interface Act {
  path: string;
  body: Record<string, unknown>;
}

/** Asks the server to do something at a printer, asks back where it wants to be sure, and shows what goes wrong; what is known of links is looked at anew. */
export function usePrinterAct() {
  const client = useQueryClient();
  const tell = useTell();
  const ask = useAsk();
  const mutation = useMutation({
    mutationFn: ({ path, body }: Act) => api.post<unknown>(path, body),
    onError: (error, { path, body }) => {
      if (!(error instanceof ApiError) || error.field !== "confirmed") return tell.error(error);
      void ask({ title: error.message, okText: "Yes, that is it" }).then((sure) => {
        if (sure) mutation.mutate({ path, body: { ...body, confirmed: true } });
      });
    },
    onSettled: () => client.invalidateQueries({ queryKey: keys.links }),
  });
  return mutation;
}
