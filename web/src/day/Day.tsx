import { Link, useParams } from "wouter";
import { go } from "../parts/go";
import { RefusalWords } from "../parts/RefusalWords";
import { useShowing } from "../service/settings";
import { OuterFrame } from "../shell/OuterFrame";
import { ShowingProvider } from "../units/showing";
import { useDay } from "./useDay";
import { Whole } from "./Whole";

export default function Day() {
  const { date = "" } = useParams();
  const day = useDay(date);
  const showing = useShowing();
  const at = new Date(`${date}T12:00`);
  const title = Number.isNaN(at.getTime())
    ? date
    : at.toLocaleDateString("en-GB", {
        weekday: "long",
        day: "numeric",
        month: "long",
        year: "numeric",
      });
  return (
    <ShowingProvider value={showing}>
      <OuterFrame
        title={title}
        action={
          <span className="flex items-center gap-3 text-dense">
            <Link
              className="plain-button no-underline"
              to={`/day/${moved(date, -1)}`}
              aria-label="Day before"
            >
              Before
            </Link>
            <input
              type="date"
              aria-label="Day"
              value={date}
              onChange={(e) => e.target.value && go(`/day/${e.target.value}`)}
              className="h-8 rounded-sm border border-tick bg-field px-2"
            />
            <Link
              className="plain-button no-underline"
              to={`/day/${moved(date, 1)}`}
              aria-label="Day after"
            >
              After
            </Link>
          </span>
        }
      >
        {day.found.error && !day.found.data ? (
          <p role="alert" className="m-0">
            <b>The day could not be read:</b> <RefusalWords it={day.found.error} />
          </p>
        ) : (
          day.found.data && <Whole key={date} date={date} answer={day.found.data} {...day} />
        )}
      </OuterFrame>
    </ShowingProvider>
  );
}

function moved(date: string, days: number): string {
  const at = new Date(`${date}T12:00Z`);
  if (Number.isNaN(at.getTime())) return date;
  at.setUTCDate(at.getUTCDate() + days);
  return at.toISOString().slice(0, 10);
}
