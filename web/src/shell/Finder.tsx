import { useMemo } from "react";
import { useNavigate } from "react-router";
import type { Command } from "../parts/CommandBox";
import { loaded } from "../parts/loaded";
import { STATIONS } from "../parts/stations";
import { useTypeAhead } from "../parts/useTypeAhead";
import type { AnswerKey } from "../service/client";
import { useJob, useJobId, useMoreAnswers, useView, useWrites } from "../service/job";
import { useHistory, useSwitches } from "./Header";

export const CommandBox = loaded(() => import("../parts/CommandBox"));

type Props = { onClose: () => void; onKeys: () => void };

/** One box to find anything or run any command. */
export function Finder(p: Props) {
  const typed = useTypeAhead();
  return <Box {...p} typed={typed} />;
}

const PARTS: readonly AnswerKey[] = ["coax"];

function Box({ onClose, onKeys, typed }: Props & { typed: string }) {
  const id = useJobId();
  const { targets } = useJob("targets");
  // The parts' names come from the network, which other pages do without.
  useMoreAnswers(PARTS, true);
  const parts = useView((view) => view.answers.coax?.parts);
  const { select } = useWrites();
  const go = useNavigate();
  const switches = useSwitches();
  const history = useHistory();
  const commands = useMemo<Command[]>(() => {
    const to = (path: string) => () => void go(path);
    const part = (key: string) => () => {
      select(key);
      void go(`/jobs/${id}/coax`);
    };
    return [
      ...STATIONS.map((s, i) => ({
        name: s.name,
        hint: String(i + 1),
        run: to(`/jobs/${id}/${s.key}`),
      })),
      ...STATIONS.map((s) => ({
        name: `Do: ${s.name}`,
        hint: "p",
        run: to(`/jobs/${id}/${s.key}/do`),
      })),
      ...(parts ?? []).map((p) => ({
        name: `Network: ${p.name}`,
        hint: p.type_name,
        run: part(p.id),
      })),
      ...(targets ?? []).map((t) => ({ name: `Target: ${t.name}`, run: to(`/jobs/${id}/sky`) })),
      { name: "Undo", hint: "Ctrl+Z", run: () => void history.undo() },
      { name: "Redo", hint: "Ctrl+Shift+Z", run: () => void history.redo() },
      { name: "Switch true or compass north", hint: "n", run: switches.north },
      { name: "Switch metric or US units", hint: "u", run: switches.units },
      { name: "Switch level unit", hint: "l", run: switches.level },
      { name: "Switch day or night", hint: "d", run: switches.theme },
      { name: "All keys", hint: "?", run: onKeys },
      { name: "Jobs", run: to("/") },
      { name: "Day", run: to("/day") },
      { name: "Parts", run: to("/parts") },
      { name: "Settings", run: to("/settings") },
      { name: "Export this job as a file", run: () => void window.open(`/api/jobs/${id}/export`) },
      { name: "Job sheet as PDF", run: () => void window.open(`/api/jobs/${id}/sheet.pdf`) },
    ];
  }, [id, parts, targets, go, switches, history, select, onKeys]);
  return <CommandBox title="Find or run" commands={commands} typed={typed} onClose={onClose} />;
}
