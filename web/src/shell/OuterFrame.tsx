import type { ReactNode } from "react";
import { Link, useLocation } from "wouter";
import { Told } from "./Told";

const PLACES = [
  ["/", "Jobs"],
  ["/day", "Day"],
  ["/parts", "Parts"],
  ["/settings", "Settings"],
] as const;

const here = (at: string, to: string) => at === to || (to !== "/" && at.startsWith(`${to}/`));

/** Outside a job: the wire with its places. */
export function OuterFrame({
  title,
  children,
  action,
}: {
  title: string;
  children: ReactNode;
  action?: ReactNode;
}) {
  const [pathname] = useLocation();
  return (
    <div className="flex min-h-screen">
      <nav
        aria-label="Places"
        className="relative w-[209px] shrink-0 border-line border-r bg-paper max-md:hidden"
      >
        <span aria-hidden="true" className="absolute top-0 left-[27px] h-full w-[3px] bg-copper" />
        <div className="absolute top-3 left-14 font-bold text-lead">Evtro</div>
        <ul className="m-0 list-none p-0 pt-[104px]">
          {PLACES.map(([to, name]) => (
            <li key={to}>
              <Link
                to={to}
                aria-current={here(pathname, to) ? "page" : undefined}
                className={`relative block py-3 pl-14 no-underline ${here(pathname, to) ? "-mr-px border-line border-y bg-sheet font-semibold" : ""}`}
              >
                {here(pathname, to) && (
                  <span
                    aria-hidden="true"
                    className="absolute top-5 left-[30px] h-[3px] w-4 bg-copper"
                  />
                )}
                {name}
              </Link>
            </li>
          ))}
        </ul>
      </nav>
      <div className="min-w-0 flex-1">
        <Told />
        <header className="flex min-h-12 flex-wrap items-center gap-x-4 gap-y-1 border-line border-b px-6 max-md:px-4 max-md:pb-2">
          <nav aria-label="Places, small" className="hidden w-full gap-4 max-md:flex">
            {PLACES.map(([to, name]) => (
              <Link
                key={to}
                to={to}
                aria-current={here(pathname, to) ? "page" : undefined}
                className={`py-3 ${here(pathname, to) ? "font-semibold" : ""}`}
              >
                {name}
              </Link>
            ))}
          </nav>
          <h1 className="m-0 font-semibold text-body">{title}</h1>
          <div className="ml-auto">{action}</div>
        </header>
        <main className="px-6 py-4 max-md:px-4">{children}</main>
      </div>
    </div>
  );
}
