// Writes the core's table of units for the client, beside the types of the service.
import { readFileSync, writeFileSync } from "node:fs";

const { "x-units": table } = JSON.parse(readFileSync("openapi.json", "utf-8"));
writeFileSync("src/units/table.json", `${JSON.stringify(table)}\n`);
