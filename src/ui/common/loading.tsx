"use client";
import { Skeleton } from "antd";

/** What stands on a page until its data is there. */
export function Loading({ rows = 4 }: { rows?: number }) {
  return (
    <div role="status" aria-label="Loading">
      <Skeleton active title={false} paragraph={{ rows }} />
    </div>
  );
}
