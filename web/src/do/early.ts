import { stepsFirst } from "../service/early";

// Its page is fetched beside the program, not behind it.
if (stepsFirst) void import("./DoFace").catch(() => {});
