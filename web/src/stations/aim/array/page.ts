import type { Antenna, ArrayDetail } from "../../../service/client";
import type { Behind } from "../../../service/pages";

export type ArrayPage = {
  detail: ArrayDetail;
  antenna: Antenna;
  behind: Behind;
  setBehind: (behind: Behind) => void;
};
