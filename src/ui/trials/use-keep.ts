"use client";
/** Keeping what a band or a spot of a trial was printed with, for its printer and spool, and taking it back. */
import { useQueryClient } from "@tanstack/react-query";
import { sayValue, SettingKey, SettingValues } from "@/core/settings";
import type { Trial } from "@/core/trials/trial";
import { api } from "../common/api";
import { keys } from "../common/keys";
import { useTell } from "../common/talk";

/** `230 °C and 40 %` */
export function sayAllKept(settings: SettingValues): string {
  return (Object.entries(settings) as [SettingKey, number][]).map(([key, value]) => sayValue(key, value)).join(" and ");
}

export function useKeep({ id, printerId, spoolId }: Pick<Trial, "id" | "printerId" | "spoolId">) {
  const client = useQueryClient();
  const tell = useTell();
  const change = async (act: () => Promise<unknown>, done: string) => {
    try {
      await act();
      await client.invalidateQueries({ queryKey: keys.kept });
      tell.done(done);
    } catch (error) {
      tell.error(error);
    }
  };
  return {
    /** Everything that was tried together is kept together. */
    keep(settings: SettingValues) {
      const several = Object.keys(settings).length > 1;
      return change(
        () => api.post("/kept", { printerId, spoolId, settings, trialId: id }),
        `${sayAllKept(settings)} ${several ? "are" : "is"} kept; later trials hold ${several ? "them" : "it"} fixed.`,
      );
    },
    /** As `keep`, of a piece that is being read; can be taken back at once. */
    async keepBand(settings: SettingValues, runId: number) {
      try {
        const kept = await api.post<{ id: number }[]>("/kept", { printerId, spoolId, settings, trialId: id, runId });
        await client.invalidateQueries({ queryKey: keys.kept });
        tell.undo(`Kept: ${sayAllKept(settings)}.`, async () => {
          for (const one of kept) await api.remove(`/kept/${one.id}`);
          await client.invalidateQueries({ queryKey: keys.kept });
        });
      } catch (error) {
        tell.error(error);
      }
    },
    takeBack(keptId: number, what: string) {
      return change(() => api.remove(`/kept/${keptId}`), `${what} is no longer kept.`);
    },
  };
}
