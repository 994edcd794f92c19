"use client";
import dayjs from "dayjs";
import relativeTime from "dayjs/plugin/relativeTime";

dayjs.extend(relativeTime);

/** A moment: how long ago, or by its date (`format` as dayjs has it). Server and page may look at their clocks at different moments. */
export function When({ at, format }: { at: string; format?: string }) {
  const moment = dayjs(at);
  return (
    <time dateTime={at} suppressHydrationWarning>
      {format === undefined ? moment.fromNow() : moment.format(format)}
    </time>
  );
}
