import { useQuery } from "@tanstack/react-query";
import { Redirect } from "wouter";
import { client, type DayHead } from "../service/client";
import { told } from "../service/refusals";

/** The day that is nearest, or today, where none is named. */
export default function AnyDay() {
  const days = useQuery({
    queryKey: ["days"],
    queryFn: () => told(client.GET("/api/days")) as Promise<DayHead[]>,
  });
  if (!days.data && !days.error) return null;
  const today = local(new Date());
  const next = days.data?.find((d) => d.date >= today) ?? days.data?.[days.data.length - 1];
  return <Redirect to={`/day/${next?.date ?? today}`} replace />;
}

function local(at: Date): string {
  return new Date(at.getTime() - at.getTimezoneOffset() * 60_000).toISOString().slice(0, 10);
}
