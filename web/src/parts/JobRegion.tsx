import type { ReactNode } from "react";
import { useView } from "../service/job";
import { Region } from "./Region";

/** A region of a job's page: every revision is another chance to draw it. */
export function JobRegion(p: {
  name: string;
  children: ReactNode;
  className?: string;
  instead?: ReactNode;
}) {
  const revision = useView((view) => view.revision);
  return <Region {...p} again={revision} />;
}
