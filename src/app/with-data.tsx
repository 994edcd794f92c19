/** Gives a page its data along with its first view: they lie in the page's queries before it asks. */
import { dehydrate, HydrationBoundary, QueryClient, QueryKey } from "@tanstack/react-query";
import { ReactNode } from "react";
import { noteNoData } from "@/server/work/pages";

/** An answer under the name pages ask for it by; `isPart`: the page asks for the rest itself. */
export interface Given {
  queryKey: QueryKey;
  data: unknown;
  isPart?: boolean;
}

/** `give` may fail: then the page comes without data. */
export async function WithData({ give, children }: { give(): Given[] | Promise<Given[]>; children: ReactNode }) {
  const client = new QueryClient();
  try {
    for (const { queryKey, data, isPart } of await give()) {
      // Plain JSON, as if it had come over HTTP: what is undefined is left out.
      client.setQueryData(queryKey, JSON.parse(JSON.stringify(data)) as unknown, isPart ? { updatedAt: 1 } : undefined);
    }
  } catch (error) {
    noteNoData(error);
  }
  return <HydrationBoundary state={dehydrate(client)}>{children}</HydrationBoundary>;
}
