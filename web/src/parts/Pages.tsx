import { useSearchParams } from "react-router";

export type Page = { key: string; name: string };

/** The pages inside a station; the address keeps which one is open. */
export function usePageOf(pages: Page[]): [string, (key: string) => void] {
  const [search, set] = useSearchParams();
  const asked = search.get("page");
  const open = pages.find((p) => p.key === asked)?.key ?? pages[0]?.key ?? "";
  return [open, (key) => set({ page: key }, { replace: true, preventScrollReset: true })];
}

export function PageTabs({
  pages,
  open,
  onOpen,
  label,
}: {
  pages: Page[];
  open: string;
  onOpen: (key: string) => void;
  label: string;
}) {
  return (
    <div
      role="tablist"
      aria-label={label}
      className="no-print flex gap-6 overflow-x-auto border-line border-b px-6 max-md:gap-4 max-md:px-4"
    >
      {pages.map((p) => (
        <button
          key={p.key}
          type="button"
          role="tab"
          id={`tab-${p.key}`}
          aria-selected={p.key === open}
          onClick={() => onOpen(p.key)}
          className={`-mb-px h-9 whitespace-nowrap border-b-2 text-dense max-md:h-11 max-md:text-body ${p.key === open ? "border-copper font-bold" : "border-transparent text-quiet"}`}
        >
          {p.name}
        </button>
      ))}
    </div>
  );
}
