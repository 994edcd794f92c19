/** What the screens ask for, in one place, so that a change anywhere is seen everywhere. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { App } from "antd";
import { createElement } from "react";
import { api, ApiError, Bench, KeptValue, ListedTrial, SavedPrinter, SavedSpool } from "./api";
import { keys } from "./keys";

export const usePrinters = () =>
  useQuery({ queryKey: keys.printers, queryFn: () => api.get<SavedPrinter[]>("/printers") });
export const useSpools = () => useQuery({ queryKey: keys.spools, queryFn: () => api.get<SavedSpool[]>("/spools") });
export const useTrials = () => useQuery({ queryKey: keys.trials, queryFn: () => api.get<ListedTrial[]>("/trials") });
export const useBench = () => useQuery({ queryKey: keys.bench, queryFn: () => api.get<Bench>("/bench") });

/** The values kept for a pair, newest first. */
export const useKept = (printerId: number, spoolId: number) =>
  useQuery({
    queryKey: keys.keptOf(printerId, spoolId),
    enabled: printerId > 0 && spoolId > 0,
    queryFn: () => api.get<KeptValue[]>(`/kept?printerId=${printerId}&spoolId=${spoolId}`),
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
    onSuccess: (bench) => client.setQueryData(keys.bench, bench),
  });
}

/** Shows an error's sentence. */
export function useTell() {
  const { message } = App.useApp();
  return {
    error: (error: unknown) => void message.error(error instanceof ApiError ? error.message : "Something went wrong."),
    done: (text: string) => void message.success(text),
  };
}

/** Removes a record and offers to put it back. `path` is its collection, `what` its name. */
export function useRemoveWithUndo(path: string, queryKey: string) {
  const client = useQueryClient();
  const { message } = App.useApp();
  const tell = useTell();
  return async (id: number, what: string) => {
    try {
      await api.remove(`${path}/${id}`);
      await client.invalidateQueries({ queryKey: [queryKey] });
      const key = `removed-${path}-${id}`;
      const undo = async () => {
        message.destroy(key);
        await api.post(`${path}/${id}/restore`);
        await client.invalidateQueries({ queryKey: [queryKey] });
      };
      void message.open({
        key,
        duration: 10,
        content: createElement(
          "span",
          null,
          `Removed ${what}. `,
          createElement("button", { className: "link-button", onClick: () => void undo().catch(tell.error) }, "Undo"),
        ),
      });
    } catch (error) {
      tell.error(error);
    }
  };
}
