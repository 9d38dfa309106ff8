"use client";

import { ActionIcon, Button, SegmentedControl, Select } from "@mantine/core";
import { IconTrash, IconX } from "@tabler/icons-react";
import dynamic from "next/dynamic";
import { useMemo, useState } from "react";
import { bandInWords } from "@/core/layout/chain-words";
import { heardDb } from "@/core/levels/heard";
import { mixLevels } from "@/core/levels/mix-levels";
import type { BandId } from "@/core/model/ids";
import { CHAIN_PROCESSORS, type Processor } from "@/core/model/tables/chain-processors";
import { processorName } from "@/core/model/tables/processor-names";
import { DYNAMICS, type Use } from "@/core/model/tables/processor-settings";
import type { Template } from "@/core/model/template";
import { wantReduction } from "@/core/planning/want-reduction";
import { levelCurve, reductionDb, USUAL_LEVEL_DB } from "@/core/processors/dynamics";
import { extremes, responseCurve, sectionsOf, summedAt } from "@/core/processors/response";
import { bandsOf, processorsOf, sideChainsOf } from "@/core/queries/chains";
import { bandsBeside } from "@/core/queries/split-bands";
import { fieldText } from "@/core/reading/field-text";
import { dB, formatDb } from "@/core/units/decibels";
import { formatHz } from "@/core/units/hertz";
import { list, row, TextField } from "../inspector/inspector-fields";
import { useDoing, useRig, useStudio } from "../state/desk-context";
import { BandsTable } from "./bands-table";
import classes from "./chain.module.css";
import { SettingsFields, useSetProcessor } from "./settings-fields";

/** What draws a curve comes after the fields, into a place that is kept for it. */
const Coming = () => <div className={classes.coming} aria-hidden />;
const LevelChart = dynamic(() => import("./level-chart").then((chart) => chart.LevelChart), {
  ssr: false,
  loading: Coming,
});
const ResponseChart = dynamic(() => import("./response-chart").then((chart) => chart.ResponseChart), {
  ssr: false,
  loading: Coming,
});

const USES: readonly { readonly value: Use; readonly label: string }[] = [
  { value: "always", label: "always" },
  { value: "not-while-recording", label: "not while recording" },
  { value: "listening-copy", label: "listening copy only" },
];

interface PartProps {
  readonly doc: Template;
  readonly processor: Processor;
  readonly colour: string;
}

const rounded = (db: number) => formatDb(dB(Math.round(db * 10) / 10));

/** Which band of an equaliser is looked at: the same in the curve and in the table. */
interface Picking {
  readonly picked: BandId | null;
  readonly onPick: (id: BandId) => void;
}

/** The response of what filters, with its highest and lowest point in words. */
const Response = ({ doc, processor, colour, picked, onPick }: PartProps & Picking) => {
  const { act } = useDoing();
  const bands = bandsOf(doc, processor.id);
  const rateHz = doc.format.sampleRateHz;
  const sections = useMemo(() => sectionsOf(processor, bands, rateHz), [processor, bands, rateHz]);
  const told = useMemo(() => {
    const { highest, lowest } = extremes(responseCurve(sections ?? [], rateHz, { wetPercent: processor.wetPercent }));
    const point = highest.y >= -lowest.y ? highest : lowest;
    if (Math.abs(point.y) < 0.05) return "Flat: nothing is turned up or down.";
    return processor.kind === "filter"
      ? null
      : `${point === highest ? "Highest" : "Lowest"} point ${rounded(point.y)} at ${formatHz(Number(point.x.toPrecision(2)))}.`;
  }, [sections, rateHz, processor.kind, processor.wetPercent]);
  const split = useMemo(
    () => (processor.kind === "filter" ? bandsBeside(doc, processor.channelId) : null),
    [doc, processor.kind, processor.channelId],
  );
  const sum = useMemo(
    () =>
      split &&
      ((hz: number) =>
        summedAt(
          split.bands.map(({ filters }) => filters),
          hz,
          rateHz,
        )),
    [split, rateHz],
  );
  if (!sections) return null;
  return (
    <div>
      <ResponseChart
        label={`Response of ${processorName(processor)}`}
        {...(processor.kind === "filter" ? { sections } : {})}
        bands={bands}
        rateHz={rateHz}
        colour={colour}
        wetPercent={processor.wetPercent}
        sum={sum}
        picked={picked}
        onPick={onPick}
        onKeep={(id, set) => act({ edits: [{ kind: "entries.set", table: "bands", ids: [id], set }] })}
      />
      {told && <p className={classes.told}>{told}</p>}
      {split && (
        <p className={classes.told}>
          Dotted: what the {split.bands.length} bands of{" "}
          {doc.channels[split.sourceId]?.name || "a channel without a name"} add up to.
        </p>
      )}
    </div>
  );
};

/**
 * How loud it usually is where a processor listens, in dBFS: what goes through it, or what steers it; the usual level
 * where nothing comes there yet.
 */
const useHeard = (doc: Template, processor: Processor): number => {
  const [rig, studio] = [useRig(), useStudio()];
  return useMemo(
    () => heardDb(doc, mixLevels(doc, { rig, studio, asked: "mixing" }), processor) ?? USUAL_LEVEL_DB,
    [doc, rig, studio, processor],
  );
};

const Levels = ({ doc, processor, colour, steered }: PartProps & { readonly steered: boolean }) => {
  const { actPlanned } = useDoing();
  const points = useMemo(() => levelCurve(processor), [processor]);
  const heard = useHeard(doc, processor);
  if (!points) return null;
  const off = processor.kind === "compressor" ? reductionDb(processor, heard) : null;
  const at = `${rounded(heard)}FS`;
  return (
    <div>
      <LevelChart
        label={`${processorName(processor)}: what comes out for what goes in`}
        points={points}
        colour={colour}
      />
      {processor.kind === "compressor" && off !== null && (
        <>
          <p className={classes.told}>
            {steered
              ? `Ducks by ${rounded(off)} while what steers it is at its usual ${at}.`
              : `Reduces by ${rounded(off)} at the usual ${at}.`}
          </p>
          <div className={classes.wanted}>
            <TextField
              label={`Reduction at ${at}, dB`}
              value={String(Math.round(off * 10) / 10)}
              onKeep={(text) => actPlanned(wantReduction(processor, { text, levelDb: heard }))}
            />
          </div>
        </>
      )}
      {processor.kind === "gate" && (
        <p className={classes.told}>
          {heard >= processor.thresholdDb
            ? `Open at the usual ${at}.`
            : `Closed at the usual ${at}: it shuts what it should let through.`}
        </p>
      )}
    </div>
  );
};

/** What steers a processor, each with the band that the detector hears. */
const Sides = ({ doc, processor, onSteer }: Omit<PartProps, "colour"> & { readonly onSteer: () => void }) => {
  const { act } = useDoing();
  if (!DYNAMICS.some((kind) => kind === processor.kind)) return null;
  const sides = sideChainsOf(doc, processor.id);
  return (
    <section aria-label="Side-chains">
      <ul className={classes.sides}>
        {sides.map((side) => {
          const name = doc.channels[side.fromId]?.name || "a channel without a name";
          return (
            <li key={side.id}>
              <span>
                steered by {name}
                {bandInWords(side) && `, ${bandInWords(side)}`}
              </span>
              <ActionIcon
                variant="subtle"
                size="sm"
                aria-label={`No longer steered by ${name}`}
                onClick={() => act({ edits: [{ kind: "entries.remove", table: "sideChains", ids: [side.id] }] })}
              >
                <IconX size={14} aria-hidden />
              </ActionIcon>
            </li>
          );
        })}
      </ul>
      <Button mt={6} variant="default" size="compact-sm" onClick={onSteer}>
        Let another channel steer it…
      </Button>
    </section>
  );
};

/** In which branch of a split it lies; or the other way round, putting it beside the line. */
const Branch = ({ doc, processor, onBranch }: Omit<PartProps, "colour"> & { readonly onBranch: () => void }) => {
  const { set } = useSetProcessor(processor);
  if (processor.kind === "split")
    return (
      <p className={classes.told}>
        Put processors in it by opening them and choosing a branch. What lies in no branch comes as it is.
      </p>
    );
  const splits = processorsOf(doc, processor.channelId).filter(({ kind }) => kind === "split");
  const none = "none";
  const value = processor.splitId === null ? none : `${processor.splitId} ${processor.branch}`;
  return (
    <>
      {splits.length > 0 && (
        <Select
          label="Lies in"
          data={[
            { value: none, label: "the row" },
            ...splits.flatMap(({ id }, at) =>
              (["first", "second"] as const).map((branch) => ({
                value: `${id} ${branch}`,
                label: `${branch} branch of ${splits.length > 1 ? `split ${at + 1}` : "the split"}`,
              })),
            ),
          ]}
          value={value}
          allowDeselect={false}
          {...list}
          onChange={(chosen) => {
            const [splitId, branch] = (chosen ?? none).split(" ");
            set(splitId === none || !branch ? { splitId: null } : { splitId, branch });
          }}
          {...row}
        />
      )}
      {processor.splitId === null && (
        <Button variant="default" size="compact-sm" mt={6} onClick={onBranch}>
          Put it beside the line as it comes
        </Button>
      )}
    </>
  );
};

interface ProcessorPanelProps extends PartProps {
  readonly onSteer: () => void;
  readonly onBranch: () => void;
  readonly onRemove: () => void;
}

/** One processor open below the thread: when it is on, its curve, and its settings in real units. */
export const ProcessorPanel = ({ doc, processor, colour, onSteer, onBranch, onRemove }: ProcessorPanelProps) => {
  const rig = useRig();
  const { set, typed } = useSetProcessor(processor);
  const filters = processor.kind === "filter" || processor.kind === "equaliser";
  const levels = !filters && processor.kind !== "gain" && levelCurve(processor, 2) !== null;
  const { wetPercent, delaySamples } = CHAIN_PROCESSORS.fields;
  const [picked, onPick] = useState<BandId | null>(null);
  const picking: Picking = { picked, onPick };
  return (
    <section id="processor-panel" className={classes.panel} aria-label={`Settings of ${processorName(processor)}`}>
      <div className={classes.panelHead}>
        <h2>{processorName(processor)}</h2>
        <SegmentedControl
          size="xs"
          aria-label="When it is on"
          data={[...USES]}
          value={processor.use}
          onChange={(use) => set({ use })}
        />
        <div className={classes.small}>
          <TextField
            label="Wet, %"
            value={fieldText(wetPercent, processor.wetPercent)}
            onKeep={typed("wetPercent", wetPercent)}
          />
        </div>
        <div className={classes.small} data-wide>
          <TextField
            label="Delay, samples"
            value={fieldText(delaySamples, processor.delaySamples)}
            onKeep={typed("delaySamples", delaySamples)}
          />
        </div>
        <span className={classes.spring} />
        <Button
          variant={processor.bypassed ? "filled" : "default"}
          size="compact-sm"
          aria-pressed={processor.bypassed}
          onClick={() => set({ bypassed: !processor.bypassed })}
        >
          {processor.bypassed ? "Bypassed" : "Bypass"}
        </Button>
        <ActionIcon variant="subtle" aria-label={`Take ${processorName(processor)} off`} onClick={onRemove}>
          <IconTrash size={16} aria-hidden />
        </ActionIcon>
      </div>
      <div className={classes.parts} data-plain={(!filters && !levels) || undefined}>
        {filters && <Response doc={doc} processor={processor} colour={colour} {...picking} />}
        {levels && (
          <Levels
            doc={doc}
            processor={processor}
            colour={colour}
            steered={sideChainsOf(doc, processor.id).length > 0}
          />
        )}
        <div>
          {processor.kind === "equaliser" && (
            <>
              <BandsTable processorId={processor.id} bands={bandsOf(doc, processor.id)} {...picking} />
              <p className={classes.told}>Type a value, or drag a knot; its thread pulls the curve.</p>
            </>
          )}
          <Sides doc={doc} processor={processor} onSteer={onSteer} />
          <SettingsFields processor={processor} rig={rig} />
          <Branch doc={doc} processor={processor} onBranch={onBranch} />
        </div>
      </div>
    </section>
  );
};
