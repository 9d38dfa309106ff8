"use client";

import { ActionIcon, Button, Select } from "@mantine/core";
import { IconPlus, IconTrash } from "@tabler/icons-react";
import type { BandId, ChainProcessorId } from "@/core/model/ids";
import { BANDS, type Band, newBand } from "@/core/model/tables/bands";
import { BAND_SHAPES } from "@/core/model/tables/processor-settings";
import { planned, unplanned } from "@/core/planning/gesture";
import { readField } from "@/core/reading/field-text";
import { newIds } from "../grid/grid-focus";
import inspector from "../inspector/inspector.module.css";
import { TextField } from "../inspector/inspector-fields";
import { dropDown } from "../shared/combobox";
import { useDoing } from "../state/desk-context";
import classes from "./chain.module.css";

const NUMBERS = ["frequencyHz", "gainDb", "q"] as const;
const HEADINGS = { frequencyHz: "Hz", gainDb: "dB", q: "Q" } as const;

const shown = (value: number): string => String(Math.round(value * 100) / 100).replace("-", "−");

const Headings = () => (
  <thead>
    <tr>
      <th scope="col">Band</th>
      {NUMBERS.map((field) => (
        <th key={field} scope="col">
          {HEADINGS[field]}
        </th>
      ))}
      <th scope="col">
        <span className="visually-hidden">Remove</span>
      </th>
    </tr>
  </thead>
);

/** One band; `at` counts from 0. */
const BandRow = ({
  band,
  at,
  picked,
  onPick,
}: {
  readonly band: Band;
  readonly at: number;
  readonly picked: boolean;
  readonly onPick: () => void;
}) => {
  const { act, actPlanned } = useDoing();
  const set = (id: BandId, values: Partial<Band>) =>
    act({ edits: [{ kind: "entries.set", table: "bands", ids: [id], set: values }] });
  const typed = (id: BandId, field: (typeof NUMBERS)[number]) => (text: string) => {
    const read = readField(BANDS.fields[field], text);
    return actPlanned(
      read.ok
        ? planned([{ kind: "entries.set", table: "bands", ids: [id], set: { [field]: read.value } }])
        : unplanned(`“${text.trim()}” ${read.says}.`),
    );
  };
  return (
    <tr data-picked={picked || undefined} onFocus={onPick}>
      <td>
        <Select
          aria-label={`Shape of band ${at + 1}`}
          data={[...BAND_SHAPES]}
          value={band.shape}
          allowDeselect={false}
          w={84}
          classNames={{ input: inspector.field }}
          {...dropDown(120)}
          onChange={(shape) => shape && set(band.id, { shape: shape as Band["shape"] })}
        />
      </td>
      {NUMBERS.map((field) => (
        <td key={field}>
          <TextField
            bare
            label={`${HEADINGS[field]} of band ${at + 1}`}
            value={shown(band[field])}
            onKeep={typed(band.id, field)}
          />
        </td>
      ))}
      <td>
        <ActionIcon
          variant="subtle"
          size="sm"
          aria-label={`Remove band ${at + 1}`}
          onClick={() => act({ edits: [{ kind: "entries.remove", table: "bands", ids: [band.id] }] })}
        >
          <IconTrash size={14} aria-hidden />
        </ActionIcon>
      </td>
    </tr>
  );
};

/** The bands of an equaliser as a table: every value can be typed. */
export const BandsTable = ({
  processorId,
  bands,
  picked,
  onPick,
}: {
  readonly processorId: ChainProcessorId;
  readonly bands: readonly Band[];
  readonly picked: BandId | null;
  readonly onPick: (id: BandId) => void;
}) => {
  const { act } = useDoing();
  const add = () =>
    act({
      edits: [
        {
          kind: "entries.add",
          entries: { bands: [newBand({ id: newIds("band"), processorId, frequencyHz: 1000, q: 1 })] },
        },
      ],
    });
  return (
    <div>
      <table className={classes.bands}>
        <Headings />
        <tbody>
          {bands.map((band, at) => (
            <BandRow key={band.id} band={band} at={at} picked={band.id === picked} onPick={() => onPick(band.id)} />
          ))}
        </tbody>
      </table>
      <Button mt={8} variant="default" size="compact-sm" leftSection={<IconPlus size={14} aria-hidden />} onClick={add}>
        Add a band
      </Button>
    </div>
  );
};
