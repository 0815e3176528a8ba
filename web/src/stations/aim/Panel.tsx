import type { ReactNode } from "react";

/** One instrument of Aim with its title. */
export function Panel({
  title,
  note,
  children,
}: {
  title: string;
  note: string;
  children: ReactNode;
}) {
  return (
    <section className="flex min-w-0 flex-col border-line border-l first:border-l-0 max-lg:border-l-0">
      <h2 className="m-0 px-4 py-2 text-dense font-normal text-muted">
        <b className="text-ink">{title}</b> {note}
      </h2>
      {children}
    </section>
  );
}

export function Notes({ children }: { children: ReactNode }) {
  return <div className="px-4 py-1.5 text-dense leading-5">{children}</div>;
}
