import type { Metadata } from "next";
import { jobsPage } from "@/server/work/pages";
import { keys } from "@/ui/common/keys";
import { JobsPage } from "@/ui/printer/jobs-page";
import { WithData } from "../../with-data";

export const metadata: Metadata = { title: "Jobs" };

const give = () => [{ queryKey: keys.allJobs, data: jobsPage() }];

export default function Page() {
  return (
    <WithData give={give}>
      <JobsPage />
    </WithData>
  );
}
