import { Button, Checkbox, SegmentedControl, Switch } from "@mantine/core";
import type { Compared, DelayRow, Switchable } from "@/core/layout/delay-rows";
import type { ChannelId } from "@/core/model/ids";
import type { Monitor } from "@/core/model/tables/channel-fields";
import type { Template } from "@/core/model/template";
import type { WhatIf } from "@/core/planning/what-if";
import type { Timeliness } from "@/core/timing/hearing";
import type { LowLatency } from "@/core/timing/low-latency";
import { counted } from "@/core/units/counted";
import { formatRate, type SampleRateHz } from "@/core/units/hertz";
import { formatMs } from "@/core/units/milliseconds";
import classes from "./delay.module.css";

interface PanelProps {
  readonly doc: Template;
  /** As it would be. */
  readonly now: Template;
  readonly tried: WhatIf;
  readonly onTry: (change: Partial<WhatIf>) => void;
  readonly rates: readonly SampleRateHz[];
  readonly buffers: readonly number[];
  readonly chosen: DelayRow | null;
  readonly canDirect: boolean;
  readonly switchables: readonly Switchable[];
  readonly advice: LowLatency;
  readonly compared: readonly Compared[];
  readonly differs: boolean;
  readonly onTake: () => void;
  readonly onBack: () => void;
}

const MONITORS: readonly { readonly value: Monitor; readonly label: string }[] = [
  { value: "direct", label: "direct" },
  { value: "computer", label: "computer" },
  { value: "off", label: "off" },
];

const Ms = ({ ms, state }: { readonly ms: number | null; readonly state: Timeliness | null }) => (
  <b data-state={state ?? "gone"}>{ms === null ? "not heard" : ms.toFixed(1)}</b>
);

/** What would help, in words: the fewest to switch off, or how far even all of them stay behind. */
const adviceInWords = (
  { off, meets, proven, late, missingMs, bufferAsItIs, bufferAllOff }: LowLatency,
  all: number,
): string => {
  if (!late) return all ? `All are on time; ${counted(all, "processor")} could be off.` : "All are on time.";
  const fewest = off.length
    ? `The fewest that bring all on time${proven ? "" : ", as far as was searched"}: ${off.length} of ${all}.`
    : "";
  if (meets) return fewest;
  const buffer =
    bufferAllOff === null
      ? "No buffer offered would do at this rate."
      : `A buffer of ${bufferAllOff} would do with them off.`;
  if (!all)
    return `Nothing that is late can be switched off: the latest stays ${formatMs(missingMs)} behind. ${bufferAsItIs === null ? "No buffer offered would do at this rate." : `A buffer of ${bufferAsItIs} would do.`}`;
  return `Even with all of them off the latest stays ${formatMs(missingMs)} behind. ${bufferAsItIs === null ? buffer : `A buffer of ${bufferAsItIs} would do as it is.`}`;
};

const RateAndBuffer = ({ now, rates, buffers, onTry }: Pick<PanelProps, "now" | "rates" | "buffers" | "onTry">) => (
  <>
    <fieldset className={classes.group}>
      <legend>Sample rate, kHz</legend>
      <SegmentedControl
        size="xs"
        fullWidth
        aria-label="Sample rate"
        data={rates.map((rate) => ({ value: String(rate), label: formatRate(rate).replace(" kHz", "") }))}
        value={String(now.format.sampleRateHz)}
        onChange={(value) => onTry({ rateHz: Number(value) as SampleRateHz })}
      />
    </fieldset>
    <fieldset className={classes.group}>
      <legend>Buffer, samples</legend>
      <SegmentedControl
        size="xs"
        fullWidth
        aria-label="Buffer"
        data={[...new Set([...buffers, now.buffers.recordingSamples])].sort((a, b) => a - b).map(String)}
        value={String(now.buffers.recordingSamples)}
        onChange={(value) => onTry({ bufferSamples: Number(value) })}
      />
    </fieldset>
  </>
);

/** How the tracks of the chosen row are monitored. */
const HowMonitored = ({
  chosen,
  monitor: now,
  tried,
  canDirect,
  onTry,
}: Pick<PanelProps, "tried" | "canDirect" | "onTry"> & { readonly chosen: DelayRow; readonly monitor: Monitor }) => (
  <fieldset className={classes.group}>
    <legend>
      {chosen.cueName}, {chosen.what.toLowerCase()}
    </legend>
    <SegmentedControl
      size="xs"
      fullWidth
      aria-label="How it is monitored"
      data={MONITORS.map((one) => ({ ...one, disabled: one.value === "direct" && !canDirect }))}
      value={now}
      onChange={(monitor) =>
        onTry({
          monitors: {
            ...tried.monitors,
            ...Object.fromEntries(chosen.trackIds.map((id) => [id, monitor as Monitor])),
          },
        })
      }
    />
    {!canDirect && <p className={classes.note}>The interface can't bring it past the computer.</p>}
  </fieldset>
);

const OffWhileRecording = ({
  now,
  tried,
  switchables,
  advice,
  onTry,
}: Pick<PanelProps, "now" | "tried" | "switchables" | "advice" | "onTry">) => {
  const fewest = new Set<string>(advice.off);
  const isOff = (one: Switchable): boolean => tried.off[one.processor.id] ?? one.off;
  const goes = switchables.filter(isOff);
  return (
    <fieldset className={classes.group}>
      <legend>Off while recording</legend>
      <p className={classes.note}>{adviceInWords(advice, switchables.length)}</p>
      <Switch
        label="All effects off"
        size="sm"
        checked={now.buffers.allOff}
        onChange={(event) => onTry({ allOff: event.currentTarget.checked })}
      />
      <ul className={classes.off}>
        {switchables.map((one) => (
          <li key={one.processor.id}>
            <Checkbox
              size="xs"
              checked={isOff(one)}
              label={
                <>
                  {one.name}
                  {fewest.has(one.processor.id) && <em> of the fewest</em>}
                </>
              }
              description={`${one.channelName} · ${one.samples} samples`}
              onChange={(event) => onTry({ off: { ...tried.off, [one.processor.id]: event.currentTarget.checked } })}
            />
          </li>
        ))}
      </ul>
      {advice.off.length > 0 && advice.meets && (
        <Button
          variant="default"
          size="compact-sm"
          onClick={() => onTry({ off: { ...tried.off, ...Object.fromEntries(advice.off.map((id) => [id, true])) } })}
        >
          Try the {advice.off.length === 1 ? "one" : `fewest ${advice.off.length}`} off
        </Button>
      )}
      {goes.length > 0 && (
        <p className={classes.note}>
          Off while a take runs, on again for mixing:{" "}
          {goes.map(({ name, channelName }) => `${name} (${channelName})`).join(", ")}.
        </p>
      )}
    </fieldset>
  );
};

const Becomes = ({ compared }: Pick<PanelProps, "compared">) => (
  <ul className={classes.compared} aria-label="What becomes of it">
    {compared.slice(0, 12).map(({ cueName, what, wasMs, isMs, targetMs, was, is }) => (
      <li key={`${cueName} ${what} ${wasMs}`}>
        {cueName} <span>{what}</span> <Ms ms={wasMs} state={was} /> → <Ms ms={isMs} state={is} />
        {isMs !== null && " ms"}
        {targetMs === null ? "" : ` of ${targetMs}`}
      </li>
    ))}
    {compared.length > 12 && <li>and {compared.length - 12} more</li>}
  </ul>
);

/** What if: nothing changes until it is taken over. */
export const WhatIfPanel = (panel: PanelProps) => {
  const { doc, now, chosen, compared, differs, onTake, onBack } = panel;
  const track = chosen ? now.channels[chosen.trackIds[0] as ChannelId] : undefined;
  return (
    <aside className={classes.side} aria-label="What if">
      <div>
        <h2>What if</h2>
        <p className={classes.note}>Nothing changes until you take it over.</p>
      </div>
      <RateAndBuffer {...panel} />
      {chosen && track?.kind === "track" && <HowMonitored {...panel} chosen={chosen} monitor={track.monitor} />}
      <OffWhileRecording {...panel} />
      {compared.length > 0 && <Becomes compared={compared} />}
      <div className={classes.buttons}>
        <Button disabled={!differs} onClick={onTake}>
          Take it over
        </Button>
        <Button variant="default" disabled={!differs} onClick={onBack}>
          Put back
        </Button>
      </div>
      <p className={classes.note}>
        Recorded with {doc.buffers.recordingSamples} samples, mixed with {doc.buffers.mixingSamples}.
      </p>
    </aside>
  );
};
