import { useEffect } from "react";
import { loaded } from "../parts/loaded";
import { readFailed } from "../service/queries";
import { door } from "../service/refusals";

const Passphrase = loaded(() => import("./Passphrase"));

/** The passphrase page, while the program asks for it. */
export function Entry() {
  const asked = door((s) => s.shut);
  const again = door((s) => s.late);
  useEffect(() => {
    if (again) void readFailed();
  }, [again]);
  return asked ? <Passphrase /> : null;
}
