import { type ComponentType, useState } from "react";
import { RefusalWords } from "../../../parts/RefusalWords";
import { type Page, PageTabs, usePageOf } from "../../../parts/Tabs";
import type { ArrayRow } from "../../../service/client";
import { type Behind, useArray } from "../../../service/pages";
import { ChoicePage } from "./ChoicePage";
import { FrontPage } from "./FrontPage";
import { HeadingPage } from "./HeadingPage";
import type { ArrayPage } from "./page";
import { TrialPage } from "./TrialPage";

const PAGES: Page[] = [
  { key: "heading", name: "Heading" },
  { key: "choice", name: "Which antenna" },
  { key: "front", name: "Front end" },
  { key: "trial", name: "Trial on site" },
];

const BODY: Record<string, ComponentType<ArrayPage>> = {
  heading: HeadingPage,
  choice: ChoicePage,
  front: FrontPage,
  trial: TrialPage,
};

/** All that can be asked of one terrestrial antenna. */
export function ArrayPages({ antenna }: { antenna: ArrayRow }) {
  const [page, open] = usePageOf(PAGES);
  const [behind, setBehind] = useState<Behind>("run");
  const { data, error } = useArray(antenna.id, behind);
  const detail = data && data.antenna === antenna.id ? data : undefined;
  return (
    <PageTabs pages={PAGES} open={page} onOpen={open} label="Pages of Aim">
      {(key) => {
        const Body = BODY[key];
        return (
          <>
            {error && (
              <p role="alert" className="m-0 text-dense">
                <RefusalWords it={error} />
              </p>
            )}
            {detail && Body && (
              <Body
                key={antenna.id}
                detail={detail}
                antenna={antenna}
                behind={behind}
                setBehind={setBehind}
              />
            )}
          </>
        );
      }}
    </PageTabs>
  );
}
