import { storageOf, type TrackStorage } from "@/core/levels/storage";
import { DISK, type Disk, type Template } from "@/core/model/template";
import { planned, unplanned } from "@/core/planning/gesture";
import { fieldText, readField } from "@/core/reading/field-text";
import { formatBytes, formatHours } from "@/core/units/bytes";
import { TextField } from "../inspector/inspector-fields";
import { KeptFor } from "../inspector/kept-for";
import { useDoing } from "../state/desk-context";
import classes from "./passes.module.css";

const FIELDS: readonly { readonly field: keyof Disk; readonly label: string; readonly placeholder?: string }[] = [
  { field: "hours", label: "Length of a take, hours" },
  { field: "takes", label: "Takes" },
  { field: "freeGb", label: "Free on the disk, GB", placeholder: "not said" },
];

const endInWords = ({ longestTakeS, fileS }: TrackStorage, name: string): string => {
  if (longestTakeS !== null) return `A plain WAV of ${name} ends after ${formatHours(longestTakeS)}.`;
  return fileS === null
    ? "Takes are written as RF64 and may be as long as the disk."
    : `Takes go on into the next file: of ${name} after ${formatHours(fileS)}.`;
};

/** What the evening takes of the disk, and whether it fits. */
export const DiskBar = ({ doc }: { readonly doc: Template }) => {
  const { actPlanned } = useDoing();
  const storage = storageOf(doc);
  const keep =
    (field: keyof Disk) =>
    (text: string): boolean => {
      const read =
        field === "freeGb" && !text.trim() ? ({ ok: true, value: null } as const) : readField(DISK[field], text);
      return actPlanned(
        read.ok
          ? planned([{ kind: "settings.set", set: { disk: { [field]: read.value } } }])
          : unplanned(`“${text.trim()}” ${read.says}.`),
      );
    };
  const soonest = storage.tracks.length
    ? storage.tracks.reduce((a, b) => (b.bytesPerSecond > a.bytesPerSecond ? b : a))
    : null;
  return (
    <section className={classes.disk} aria-label="The disk">
      <KeptFor of="disk">
        {FIELDS.map(({ field, label, placeholder }) => (
          <TextField
            key={field}
            label={label}
            value={fieldText(DISK[field], doc.disk[field])}
            {...(placeholder ? { placeholder } : {})}
            onKeep={keep(field)}
          />
        ))}
      </KeptFor>
      <p>
        All at once: {storage.bytesPerSecond.toLocaleString("en-GB")} bytes a second,{" "}
        {(storage.bytesPerHour / 1e9).toFixed(4)} GB or {(storage.bytesPerHour / 2 ** 30).toFixed(3)} GiB an hour,{" "}
        {formatBytes(storage.eveningBytes)} the evening
        {storage.passesBytes === null ? "" : `; all passes ${formatBytes(storage.passesBytes)}`}.
        {soonest && ` ${endInWords(soonest, doc.channels[soonest.trackId]?.name ?? "")}`}
        {storage.fitsS !== null && ` ${formatHours(storage.fitsS)} of all at once fit.`}
      </p>
    </section>
  );
};
