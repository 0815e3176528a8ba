import type { ReactNode } from "react";

/** A head cell; figures stand right. */
export function Head({
  children,
  right,
  wide,
}: {
  children?: ReactNode;
  right?: boolean;
  wide?: boolean;
}) {
  return (
    <th
      scope="col"
      className={`py-1.5 ${right ? "text-right" : ""} ${wide ? "pl-6" : "pl-3"} first:pl-0`}
    >
      {children}
    </th>
  );
}

/** A dense table with a title over its first column. */
export function Table({
  title,
  heads,
  children,
  least = 560,
}: {
  title: string;
  heads: ReactNode;
  children: ReactNode;
  least?: number;
}) {
  return (
    <div className="overflow-x-auto">
      <table className="w-full border-collapse text-dense" style={{ minWidth: least }}>
        <thead>
          <tr className="border-line border-b text-muted">
            <th scope="col" className="py-1.5 font-bold text-body text-ink">
              {title}
            </th>
            {heads}
          </tr>
        </thead>
        <tbody>{children}</tbody>
      </table>
    </div>
  );
}

export function Cell({ children, right }: { children?: ReactNode; right?: boolean }) {
  return (
    <td className={`py-1.5 pl-3 ${right ? "num whitespace-nowrap text-right" : ""}`}>{children}</td>
  );
}

export function Title({ children, note }: { children: ReactNode; note?: ReactNode }) {
  return (
    <h2 className="m-0 pb-1.5 text-body">
      <b>{children}</b>
      {note && <span className="ml-2 text-dense text-muted">{note}</span>}
    </h2>
  );
}
