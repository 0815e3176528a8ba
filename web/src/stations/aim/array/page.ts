import type { ArrayDetail, ArrayRow } from "../../../service/client";
import type { Behind } from "../../../service/pages";

export type ArrayPage = {
  detail: ArrayDetail;
  antenna: ArrayRow;
  behind: Behind;
  setBehind: (behind: Behind) => void;
};
