/** What the screens ask for, in one place, so that a change anywhere is seen everywhere. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import type { Ceiling } from "@/core/checks/check";
import type { RoadStep } from "@/core/road/road";
import type { BenchRow } from "@/core/trials/bench-row";
import type { ExpectedRanges } from "@/core/trials/expected";
import type { FirstPiece } from "@/core/trials/effort";
import type { BriefTrial } from "@/core/trials/brief";
import { api, Bench, KeptValue, SavedPrinter, SavedSpool, StoredTrial } from "./api";
import { keys } from "./keys";
import { useTell } from "./talk";

export const usePrinters = () =>
  useQuery({ queryKey: keys.printers, queryFn: () => api.get<SavedPrinter[]>("/printers") });
export const useSpools = () => useQuery({ queryKey: keys.spools, queryFn: () => api.get<SavedSpool[]>("/spools") });
export const useTrials = () =>
  useQuery({ queryKey: keys.trials, queryFn: () => api.get<BriefTrial[]>("/trials?brief=1") });
export const useBench = () => useQuery({ queryKey: keys.bench, queryFn: () => api.get<Bench>("/bench") });

/** What the bench says of each question for a pair. */
export const useBenchRows = (printerId: number, spoolId: number) =>
  useQuery({
    queryKey: keys.benchRows(printerId, spoolId),
    enabled: printerId > 0 && spoolId > 0,
    queryFn: () => api.get<BenchRow[]>(`/bench/rows?printerId=${printerId}&spoolId=${spoolId}`),
  });

/** Everything that can be found out for a pair, in the order of work. */
export const useRoad = (printerId: number, spoolId: number) =>
  useQuery({
    queryKey: keys.road(printerId, spoolId),
    enabled: printerId > 0 && spoolId > 0,
    queryFn: () => api.get<RoadStep[]>(`/bench/road?printerId=${printerId}&spoolId=${spoolId}`),
  });

/** The pieces of the first rounds of a pair, with their pictures; built by the server, which takes some seconds the first time. */
export const useFirstPieces = (printerId: number, spoolId: number) =>
  useQuery({
    queryKey: keys.firstPieces(printerId, spoolId),
    enabled: printerId > 0 && spoolId > 0,
    staleTime: 60_000,
    queryFn: () => api.get<FirstPiece[]>(`/bench/first-pieces?printerId=${printerId}&spoolId=${spoolId}`),
  });

/** A trial as it stands on the server. */
export const useTrial = (id: number | null) =>
  useQuery({
    queryKey: keys.trial(id ?? 0),
    enabled: id !== null,
    queryFn: () => api.get<StoredTrial>(`/trials/${id}`),
    gcTime: 0,
    staleTime: Infinity,
    retry: false,
  });

/** The values kept for a pair, newest first. */
export const useKept = (printerId: number, spoolId: number) =>
  useQuery({
    queryKey: keys.keptOf(printerId, spoolId),
    enabled: printerId > 0 && spoolId > 0,
    queryFn: () => api.get<KeptValue[]>(`/kept?printerId=${printerId}&spoolId=${spoolId}`),
  });

/** What earlier spools lead one to expect of a pair, by setting. */
export const useExpected = (printerId: number, spoolId: number) =>
  useQuery({
    queryKey: keys.expected(printerId, spoolId),
    enabled: printerId > 0 && spoolId > 0,
    queryFn: () => api.get<ExpectedRanges>(`/bench/expected?printerId=${printerId}&spoolId=${spoolId}`),
  });

/** What the printer's firmware lets its axes have, by the last reading of its values. */
export const useCeiling = (printerId: number) =>
  useQuery({
    queryKey: keys.ceiling(printerId),
    enabled: printerId > 0,
    queryFn: () => api.get<Ceiling | null>(`/printers/${printerId}/ceiling`),
  });

/** The printer and the spool on the bench; undefined while loading, null where the shelf is empty. */
export function useBenchPair() {
  const bench = useBench().data;
  const printers = usePrinters().data;
  const spools = useSpools().data;
  if (!bench || !printers || !spools) return { printer: undefined, spool: undefined };
  return {
    printer: printers.find(({ id }) => id === bench.printerId) ?? null,
    spool: spools.find(({ id }) => id === bench.spoolId) ?? null,
  };
}

export function useSetBench() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (bench: Partial<Bench>) => api.put<Bench>("/bench", bench),
    // An answer that was asked for before must not come after.
    onMutate: () => client.cancelQueries({ queryKey: keys.bench }),
    onSuccess: (bench) => client.setQueryData(keys.bench, bench),
  });
}

/** Removes a record and offers to put it back. `path` is its collection, `what` its name. */
export function useRemoveWithUndo(path: string, queryKey: string) {
  const client = useQueryClient();
  const tell = useTell();
  return async (id: number, what: string) => {
    const refresh = () => client.invalidateQueries({ queryKey: [queryKey] });
    try {
      await api.remove(`${path}/${id}`);
      await refresh();
      tell.undo(`Removed ${what}.`, async () => {
        await api.post(`${path}/${id}/restore`);
        await refresh();
      });
    } catch (error) {
      tell.error(error);
    }
  };
}
