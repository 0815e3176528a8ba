import { Tab, TabGroup, TabList, TabPanel, TabPanels } from "@headlessui/react";
import { Activity, type ReactNode, useState } from "react";
import { useSearchParams } from "wouter";
import { JobRegion } from "./JobRegion";

export type Page = { key: string; name: string };

/** A choice that the address keeps. */
export function useParam(name: string): [string | null, (value: string | null) => void] {
  const [search, set] = useSearchParams();
  const choose = (value: string | null) =>
    set(
      (now) => {
        const next = new URLSearchParams(now);
        if (value === null) next.delete(name);
        else next.set(name, value);
        return next;
      },
      { replace: true },
    );
  return [search.get(name), choose];
}

/** Which of the pages inside a station is open. */
export function usePageOf(pages: Page[]): [string, (key: string) => void] {
  const [asked, set] = useParam("page");
  return [pages.find((p) => p.key === asked)?.key ?? pages[0]?.key ?? "", set];
}

/** The pages inside a station. One that was open stays as it was left, with what was typed there. */
export function PageTabs({
  pages,
  open,
  onOpen,
  label,
  children,
}: {
  pages: Page[];
  open: string;
  onOpen: (key: string) => void;
  label: string;
  children: (key: string) => ReactNode;
}) {
  const [known, visit] = useState<ReadonlySet<string>>(new Set([open]));
  const visited = known.has(open) ? known : new Set([...known, open]);
  if (visited !== known) visit(visited);
  return (
    <TabGroup
      manual
      selectedIndex={Math.max(
        0,
        pages.findIndex((p) => p.key === open),
      )}
      onChange={(i) => onOpen(pages[i]!.key)}
    >
      <TabList
        aria-label={label}
        className="no-print flex gap-6 overflow-x-auto border-line border-b px-6 max-md:gap-4 max-md:px-4"
      >
        {pages.map((p) => (
          <Tab
            key={p.key}
            className="-mb-px h-9 whitespace-nowrap border-transparent border-b-2 text-dense text-muted data-selected:border-copper data-selected:font-bold data-selected:text-ink max-md:h-11 max-md:text-body"
          >
            {p.name}
          </Tab>
        ))}
      </TabList>
      <TabPanels className="px-6 py-3 max-md:px-4">
        {pages.map((p) => (
          <TabPanel key={p.key} unmount={false} tabIndex={-1} className="outline-none">
            {visited.has(p.key) && (
              <Activity mode={p.key === open ? "visible" : "hidden"}>
                <JobRegion name={p.name}>{children(p.key)}</JobRegion>
              </Activity>
            )}
          </TabPanel>
        ))}
      </TabPanels>
    </TabGroup>
  );
}

/** A choice between a few things of which one is looked at: the list alone, what it shows stands beside it. */
export function PickTabs({
  items,
  open,
  onOpen,
  label,
  className,
  tab,
}: {
  items: { key: string; body: ReactNode }[];
  open: string;
  onOpen: (key: string) => void;
  label: string;
  className: string;
  /** The look of each tab; `data-selected:` tells the open one. */
  tab: string;
}) {
  return (
    <TabGroup
      manual
      className="contents"
      selectedIndex={Math.max(
        0,
        items.findIndex((i) => i.key === open),
      )}
      onChange={(i) => onOpen(items[i]!.key)}
    >
      <TabList aria-label={label} className={className}>
        {items.map((i) => (
          <Tab key={i.key} className={tab}>
            {i.body}
          </Tab>
        ))}
      </TabList>
    </TabGroup>
  );
}

/** The look of a short list of names above what it shows. */
export const NAME_TAB =
  "border-transparent border-b-2 pb-0.5 text-muted data-selected:border-copper data-selected:font-bold data-selected:text-ink";
