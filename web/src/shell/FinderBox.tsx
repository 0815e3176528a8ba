import { useMemo } from "react";
import CommandBox, { type Command } from "../parts/CommandBox";
import { go } from "../parts/go";
import { STATIONS } from "../parts/stations";
import type { AnswerKey } from "../service/client";
import { useJob, useJobId, useMoreAnswers, useView, useWrites } from "../service/job";
import { useHistory, useSwitches } from "./Header";

type Props = { onClose: () => void; onKeys: () => void; typed: string };

const PARTS: readonly AnswerKey[] = ["coax"];

/** The commands of a job, to be found by what is typed. */
export default function FinderBox({ onClose, onKeys, typed }: Props) {
  const id = useJobId();
  const { targets } = useJob("targets");
  // The parts' names come from the network, which other pages do without.
  useMoreAnswers(PARTS, true);
  const parts = useView((view) => view.answers.coax?.parts);
  const { select } = useWrites();
  const switches = useSwitches();
  const history = useHistory();
  const commands = useMemo<Command[]>(() => {
    const to = (path: string) => () => go(path);
    const part = (key: string) => () => {
      select(key);
      go(`/jobs/${id}/coax`);
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
  }, [id, parts, targets, switches, history, select, onKeys]);
  return <CommandBox title="Find or run" commands={commands} typed={typed} onClose={onClose} />;
}
