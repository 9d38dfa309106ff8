import { Select, Switch } from "@mantine/core";
import { pannedSides } from "@/core/levels/pan";
import type { Colour } from "@/core/model/colours";
import { ICONS, type Icon } from "@/core/model/families";
import { isSum } from "@/core/model/read-template";
import { FOLDS, LAYOUTS } from "@/core/model/tables/channel-fields";
import { CHANNELS, type Channel, type Sum, type Track } from "@/core/model/tables/channels";
import type { Template } from "@/core/model/template";
import { planned, unplanned } from "@/core/planning/gesture";
import { routeByName, routeChoices } from "@/core/planning/route";
import { layoutOf } from "@/core/queries/layouts";
import { outputText } from "@/core/queries/outputs";
import { fieldText, readField } from "@/core/reading/field-text";
import { dB, formatDb, formatLevel } from "@/core/units/decibels";
import { panText } from "@/core/units/pan";
import { newIds } from "../grid/grid-focus";
import inspector from "../inspector/inspector.module.css";
import { list, row, TextField, useColours } from "../inspector/inspector-fields";
import { ICON_NAMES } from "../shared/track-icon";
import { useDesk, useRig } from "../state/desk-context";
import classes from "./flow.module.css";
import { InstrumentFields } from "./instrument-fields";
import { BesideFields, MonitorFields } from "./monitor-fields";
import { common, useSetting } from "./use-setting";

interface FieldsProps {
  readonly doc: Template;
  readonly channels: readonly Channel[];
}

const shown = (value: string | null): { readonly value: string; readonly placeholder?: string } =>
  value === null ? { value: "", placeholder: "various" } : { value };

const isPassing = (channel: Channel): channel is Exclude<Channel, { kind: "main" }> => channel.kind !== "main";

/** "Left −1.6 dB, right −5.11 dB, by the law of −3 dB": what a pan does to the two sides. */
const sidesInWords = ({ mix }: Template, pan: number): string => {
  const { left, right } = pannedSides(mix.panLawDb, pan);
  return `Left ${formatLevel(left)}, right ${formatLevel(right)}, by the law of ${formatDb(dB(mix.panLawDb))}.`;
};

const PassingFields = ({ channels }: { readonly channels: readonly Exclude<Channel, { kind: "main" }>[] }) => {
  const { set, mixed } = useSetting(channels);
  const doc = useDesk((desk) => desk.doc);
  const wide = channels.every((channel) => layoutOf(doc, channel) !== "mono");
  const pan = common(channels.map((channel) => channel.pan));
  const switches = {
    classNames: { body: inspector.switchBody, labelWrapper: inspector.label },
    labelPosition: "left",
  } as const;
  return (
    <>
      <TextField
        label={wide ? "Balance" : "Pan"}
        {...shown(common(channels.map(({ pan }) => panText(pan))))}
        onKeep={mixed("pan")}
      />
      {!wide && pan !== null && pan !== 0 && <p className={classes.more}>{sidesInWords(doc, pan)}</p>}
      <Switch
        label="Muted"
        {...switches}
        checked={channels.every(({ muted }) => muted)}
        onChange={(event) => set({ muted: event.currentTarget.checked })}
      />
      <Switch
        label="Parked"
        {...switches}
        checked={channels.every(({ parked }) => parked)}
        onChange={(event) => set({ parked: event.currentTarget.checked })}
      />
    </>
  );
};

const NONE = "none";

interface ColourFieldProps {
  /** How having no dye of its own is called. */
  readonly none: string;
  readonly colours: readonly (Colour | null)[];
  readonly onColour: (colour: Colour | null) => void;
}

const ColourField = ({ none, colours, onColour }: ColourFieldProps) => (
  <Select
    label="Colour"
    data={[{ value: NONE, label: none }, ...useColours()]}
    value={common(colours.map((colour) => colour ?? NONE))}
    placeholder="various"
    allowDeselect={false}
    {...list}
    onChange={(colour) => onColour(colour === NONE ? null : (colour as Colour))}
    {...row}
  />
);

const SumFields = ({ channels }: { readonly channels: readonly Sum[] }) => {
  const { set } = useSetting(channels);
  return (
    <>
      <Select
        label="Layout"
        data={[...LAYOUTS]}
        value={common(channels.map(({ layout }) => layout))}
        placeholder="various"
        allowDeselect={false}
        {...list}
        onChange={(layout) => set({ layout: layout as Sum["layout"] })}
        {...row}
      />
      {channels.every(({ layout }) => layout === "mono") && (
        <Select
          label="Stereo comes in"
          data={FOLDS.map((fold) => ({
            value: fold,
            label: fold === "sum" ? "both sides added up" : `its ${fold} side only`,
          }))}
          value={common(channels.map(({ fold }) => fold))}
          placeholder="various"
          allowDeselect={false}
          {...list}
          onChange={(fold) => set({ fold: fold as Sum["fold"] })}
          {...row}
        />
      )}
      <ColourField
        none="none of its own"
        colours={channels.map(({ colour }) => colour)}
        onColour={(colour) => set({ colour })}
      />
    </>
  );
};

/** How tracks look: their dye and their icon, of one or of all that are selected. */
const LookFields = ({ tracks }: { readonly tracks: readonly Track[] }) => {
  const { plan } = useSetting(tracks);
  const set = (values: Partial<Pick<Track, "colour" | "icon">>) =>
    plan(planned([{ kind: "entries.set", table: "channels", ids: tracks.map(({ id }) => id), set: values }]));
  return (
    <>
      <ColourField
        none="as the folder"
        colours={tracks.map(({ colour }) => colour)}
        onColour={(colour) => set({ colour })}
      />
      <Select
        label="Icon"
        data={[
          { value: NONE, label: "no icon" },
          ...ICONS.map((icon) => ({ value: icon as string, label: ICON_NAMES[icon] })),
        ]}
        value={common(tracks.map(({ icon }) => icon ?? NONE))}
        placeholder="various"
        allowDeselect={false}
        {...list}
        onChange={(icon) => set({ icon: icon === NONE ? null : (icon as Icon) })}
        {...row}
      />
    </>
  );
};

const newBus = (text: string): string => `New bus “${text}”`;

/** What the mix of channels has in common, to be set for all of them. */
export const ChannelFields = ({ doc, channels }: FieldsProps) => {
  const rig = useRig();
  const { set, mixed, plan, channelIds } = useSetting(channels);
  const [only] = channels.length === 1 ? channels : [];
  const passing = channels.filter(isPassing);
  const sums = channels.filter(isSum);
  const level = (field: "faderDb" | "trimDb") =>
    shown(common(channels.map((channel) => fieldText(CHANNELS.fields[field], channel[field]))));
  const tracks = channels.filter(({ kind }) => kind === "track") as readonly Track[];
  const shift = (text: string) => {
    const read = readField(CHANNELS.fields.trimDb, text);
    if (!text.trim()) return true;
    return read.ok && typeof read.value === "number"
      ? plan(planned([{ kind: "channels.shift", channelIds, byDb: read.value as never }]))
      : plan(unplanned(`“${text.trim()}” is no number of dB to shift by.`));
  };
  return (
    <div className={inspector.fields}>
      {only && <TextField label="Name" value={only.name} onKeep={(name) => set({ name })} />}
      <TextField
        label="Output"
        {...shown(common(channels.map(({ output }) => outputText(doc, rig, output))))}
        data={() => routeChoices(doc, rig, channelIds)}
        asNew={newBus}
        unchosen="it was neither chosen from the list nor said to be new."
        onKeep={(name) => plan(routeByName(doc, rig, { channelIds, name, ids: newIds }))}
      />
      <TextField label="Fader in dB" {...level("faderDb")} onKeep={mixed("faderDb")} />
      {channels.length > 1 && <TextField label="Shift by dB" value="" placeholder="−3" onKeep={shift} />}
      <TextField label="Trim in dB" {...level("trimDb")} onKeep={mixed("trimDb")} />
      <Switch
        label="Polarity inverted"
        classNames={{ body: inspector.switchBody, labelWrapper: inspector.label }}
        labelPosition="left"
        checked={channels.every(({ polarityTurned }) => polarityTurned)}
        onChange={(event) => set({ polarityTurned: event.currentTarget.checked })}
      />
      {tracks.length === channels.length && (
        <Select
          label="Records"
          data={[
            { value: "before", label: "before its chain" },
            { value: "after", label: "after its chain" },
          ]}
          value={common(tracks.map(({ recordPoint }) => recordPoint))}
          placeholder="various"
          allowDeselect={false}
          {...list}
          onChange={(recordPoint) => set({ recordPoint: recordPoint as Track["recordPoint"] })}
          {...row}
        />
      )}
      {passing.length === channels.length && <PassingFields channels={passing} />}
      {sums.length === channels.length && <SumFields channels={sums} />}
      {only?.kind === "instrument" && <InstrumentFields instrument={only} />}
      {tracks.length === channels.length && <MonitorFields tracks={tracks} />}
      {tracks.length === channels.length && <LookFields tracks={tracks} />}
      <TextField
        label="Note"
        {...shown(common(channels.map(({ note }) => note)))}
        onKeep={(note) => set({ note: note.trim() })}
      />
      {only && (only.kind === "click" || only.kind === "talkback") && <BesideFields channel={only} />}
      {only?.kind === "reference" && (
        <TextField
          label="File"
          value={only.file}
          placeholder="none named"
          onKeep={(file) => set({ file: file.trim() })}
        />
      )}
    </div>
  );
};
