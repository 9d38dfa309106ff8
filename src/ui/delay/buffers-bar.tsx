import { BUFFERS, type Buffers, type Template } from "@/core/model/template";
import { planned, unplanned } from "@/core/planning/gesture";
import { fieldText, readField } from "@/core/reading/field-text";
import { TextField } from "../inspector/inspector-fields";
import { KeptFor } from "../inspector/kept-for";
import { useDoing } from "../state/desk-context";
import classes from "./delay.module.css";

const FIELDS: readonly { readonly field: Exclude<keyof Buffers, "allOff">; readonly label: string }[] = [
  { field: "recordingSamples", label: "Buffer while recording" },
  { field: "mixingSamples", label: "Buffer while mixing" },
  { field: "ceilingPercent", label: "Ceiling of the load, %" },
  { field: "callbackUs", label: "Fixed load of a buffer, µs" },
];

/** What the template records and mixes with, typed. */
export const BuffersBar = ({ doc }: { readonly doc: Template }) => {
  const { actPlanned } = useDoing();
  const keep =
    (field: (typeof FIELDS)[number]["field"]) =>
    (text: string): boolean => {
      const read = readField(BUFFERS[field], text);
      return actPlanned(
        read.ok
          ? planned([{ kind: "settings.set", set: { buffers: { [field]: read.value } } }])
          : unplanned(`“${text.trim()}” ${read.says}.`),
      );
    };
  return (
    <KeptFor of="buffers">
      <section className={classes.buffers} aria-label="Buffers of the template">
        {FIELDS.map(({ field, label }) => (
          <TextField
            key={field}
            label={label}
            value={fieldText(BUFFERS[field], doc.buffers[field])}
            onKeep={keep(field)}
          />
        ))}
      </section>
    </KeptFor>
  );
};
