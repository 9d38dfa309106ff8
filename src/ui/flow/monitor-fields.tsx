import { Select, Switch } from "@mantine/core";
import { rigInputsOf } from "@/core/model/read-rig";
import { MONITORS, type Monitor } from "@/core/model/tables/channel-fields";
import { CHANNELS, type Click, type Talkback, type Track } from "@/core/model/tables/channels";
import { planned, unplanned } from "@/core/planning/gesture";
import { canBeDirect, monitorTracks } from "@/core/planning/monitor-plans";
import { fieldText, readField } from "@/core/reading/field-text";
import inspector from "../inspector/inspector.module.css";
import { list, row, TextField } from "../inspector/inspector-fields";
import { useDesk, useRig } from "../state/desk-context";
import classes from "./flow.module.css";
import { common, useSetting } from "./use-setting";

const { kinds } = CHANNELS;
const WORDS: { readonly [M in Monitor]: string } = {
  computer: "through the computer",
  direct: "direct",
  off: "not at all",
};
const BUILT_IN = "built-in";

/** How tracks are heard while they record, and where their faders stand then. */
export const MonitorFields = ({ tracks }: { readonly tracks: readonly Track[] }) => {
  const doc = useDesk((desk) => desk.doc);
  const rig = useRig();
  const { set, plan, channelIds } = useSetting(tracks);
  const apart = tracks.every(({ liveApart }) => liveApart);
  const level = common(tracks.map(({ liveDb }) => fieldText(kinds.track.liveDb, liveDb)));
  const can = tracks.every((track) => canBeDirect(doc, rig, track));
  const keep = (text: string): boolean => {
    const read = readField(kinds.track.liveDb, text);
    return plan(
      read.ok
        ? planned([
            { kind: "entries.set", table: "channels", ids: channelIds, set: { liveDb: read.value as Track["liveDb"] } },
          ])
        : unplanned(`“${text.trim()}” ${read.says}.`),
    );
  };
  return (
    <>
      <Select
        label="Monitored"
        data={MONITORS.map((value) => ({
          value,
          label: value === "direct" && !can ? "direct, where it can be" : WORDS[value],
        }))}
        value={common(tracks.map(({ monitor }) => monitor))}
        placeholder="various"
        allowDeselect={false}
        {...list}
        onChange={(monitor) => plan(monitorTracks(doc, rig, { trackIds: channelIds, monitor: monitor as Monitor }))}
        {...row}
      />
      <Switch
        label="Own level while recording"
        classNames={{ body: inspector.switchBody, labelWrapper: inspector.label }}
        labelPosition="left"
        checked={apart}
        onChange={(event) => set({ liveApart: event.currentTarget.checked })}
      />
      {apart && (
        <TextField
          label="Level then, dB"
          value={level ?? ""}
          {...(level === null ? { placeholder: "various" } : {})}
          onKeep={keep}
        />
      )}
    </>
  );
};

/** A click has its tempo, talkback its input; both come at a level of their own. */
export const BesideFields = ({ channel }: { readonly channel: Click | Talkback }) => {
  const rig = useRig();
  const { set, plan, channelIds } = useSetting([channel]);
  const keep =
    (field: "tempoBpm" | "sourceDb") =>
    (text: string): boolean => {
      const read = readField(field === "tempoBpm" ? kinds.click.tempoBpm : kinds.click.sourceDb, text);
      return plan(
        read.ok
          ? planned([{ kind: "entries.set", table: "channels", ids: channelIds, set: { [field]: read.value } }])
          : unplanned(`“${text.trim()}” ${read.says}.`),
      );
    };
  return (
    <>
      {channel.kind === "click" && (
        <TextField
          label="Tempo, beats a minute"
          value={fieldText(kinds.click.tempoBpm, channel.tempoBpm)}
          onKeep={keep("tempoBpm")}
        />
      )}
      {channel.kind === "talkback" && (
        <Select
          label="Microphone"
          data={[
            { value: BUILT_IN, label: "built in" },
            ...rigInputsOf(rig).map(({ port, label }) => ({ value: port.id as string, label: `input ${label}` })),
          ]}
          value={channel.portId ?? BUILT_IN}
          allowDeselect={false}
          {...list}
          onChange={(portId) =>
            set({ portId: portId === BUILT_IN || portId === null ? null : (portId as Talkback["portId"]) })
          }
          {...row}
        />
      )}
      <TextField
        label="Arrives at, dBFS"
        value={fieldText(kinds.click.sourceDb, channel.sourceDb)}
        onKeep={keep("sourceDb")}
      />
      <p className={classes.more}>Heard in the cues that carry it, and nowhere else unless it is routed.</p>
    </>
  );
};
