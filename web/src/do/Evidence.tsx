import { Camera, NotebookPen } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { Why } from "../parts/Value";
import type { Refusal } from "../service/client";
import { useJobId, useWrites } from "../service/job";
import type { Waiting } from "../service/kept";
import { outbox, useOutbox } from "../service/outbox";
import { NO_ANSWER } from "../service/refusals";
import { type RowOf, useRows } from "../service/rows";
import { address, placeNow, placeWanted, smaller, wantPlace } from "./picture";
import { type Put, whoIsHere } from "./put";

const NO_PICTURE: Refusal = {
  ...NO_ANSWER,
  title: "No picture",
  status: 422,
  code: "file-wrong",
  field: "Photo",
  detail: "this is no picture that can be read.",
  remedy: "Choose a JPEG, PNG or WebP picture of at most 60 MB.",
};

/** What shows that a step was done: photographs and a note. */
export function Evidence({
  step,
  note,
  put,
}: {
  step: string;
  note: string;
  put: (body: Put) => Promise<Refusal | null>;
}) {
  const { photo } = useWrites();
  const jobId = useJobId();
  const rows = useRows("photos");
  const taken = rows.rows.filter((p) => p.step === step);
  const waiting = useOutbox(jobId).filter((r) => r.photo?.step === step);
  const pick = useRef<HTMLInputElement>(null);
  const [refused, refuse] = useState<Refusal | null>(null);
  const [writing, write] = useState(note !== "");
  const take = async (file: File) => {
    const [small, place] = await Promise.all([smaller(file), placeNow()]);
    refuse(small ? await photo({ step, by: whoIsHere(), file: small, place }) : NO_PICTURE);
  };
  const count = taken.length + waiting.length;
  const [place, setPlace] = useState(placeWanted);
  return (
    <div>
      {count > 0 && (
        <ul aria-label="Photos" className="m-0 mb-2 flex list-none gap-2 overflow-x-auto p-0">
          {taken.map((p) => (
            <Shown key={p.id} job={jobId} photo={p} onRemove={() => rows.remove(p.id)} />
          ))}
          {waiting.map((r) => (
            <Unsent key={r.key} row={r} />
          ))}
        </ul>
      )}
      <div className="grid grid-cols-2 gap-2.5">
        <button
          type="button"
          onClick={() => pick.current?.click()}
          className="flex min-h-14 items-center justify-center gap-3 rounded-sm border-2 border-ink font-semibold"
        >
          <Camera size={24} aria-hidden="true" /> Photo{count ? `, ${count}` : ""}
        </button>
        <button
          type="button"
          aria-expanded={writing}
          onClick={() => write(!writing)}
          className="flex min-h-14 items-center justify-center gap-3 rounded-sm border-2 border-ink font-semibold"
        >
          <NotebookPen size={22} aria-hidden="true" /> {note ? "Note, 1" : "Add a note"}
        </button>
      </div>
      <input
        ref={pick}
        type="file"
        aria-label="Photo file"
        accept="image/*"
        capture="environment"
        className="hidden"
        onChange={(e) => {
          const file = e.target.files?.[0];
          e.target.value = "";
          if (file) void take(file);
        }}
      />
      {count > 0 && window.isSecureContext && (
        <label className="flex min-h-11 items-center gap-3 text-body">
          <input
            type="checkbox"
            checked={place}
            onChange={(e) => {
              wantPlace(e.target.checked);
              setPlace(e.target.checked);
            }}
            className="h-6 w-6 accent-(--color-ink)"
          />
          Photos with where they were taken
        </label>
      )}
      {writing && (
        <label className="mt-2 block">
          <span className="text-body text-muted">Note</span>
          <input
            defaultValue={note}
            onBlur={async (e) => {
              if (e.target.value !== note) refuse(await put({ note: e.target.value }));
            }}
            className="h-11 w-full rounded-sm border border-tick bg-field px-3"
          />
        </label>
      )}
      <Why refused={refused} />
    </div>
  );
}

function Shown({
  job,
  photo,
  onRemove,
}: {
  job: string;
  photo: RowOf<"photos">;
  onRemove: () => void;
}) {
  const [missing, setMissing] = useState(false);
  const said = `Photo${photo.taken_by ? ` by ${photo.taken_by}` : ""}, ${photo.at}`;
  return (
    <li className="shrink-0">
      {missing ? (
        <span className="grid h-24 w-32 place-items-center border border-line text-center text-body text-muted">
          not on this device
        </span>
      ) : (
        <img
          src={`/api/jobs/${job}/photos/${photo.id}`}
          alt={said}
          onError={() => setMissing(true)}
          className="block h-24 w-auto border border-line"
        />
      )}
      <button type="button" className="min-h-11 text-body underline" onClick={onRemove}>
        Remove
      </button>
    </li>
  );
}

function Unsent({ row }: { row: Waiting }) {
  const [src, show] = useState("");
  const file = row.photo!.file;
  useEffect(() => void address(file).then(show), [file]);
  return (
    <li className="shrink-0">
      {src && (
        <img
          src={src}
          alt="Kept here, not sent yet"
          className="block h-24 w-auto border-2 border-marginal"
        />
      )}
      <button
        type="button"
        className="min-h-11 text-body underline"
        onClick={() => void outbox.drop([row])}
      >
        Remove
      </button>
    </li>
  );
}
