import { Button } from "@mantine/core";
import { worstOf } from "@/core/layout/cue-matrix";
import type { Weft } from "@/core/layout/pass-draft";
import { rigInputInWords, rigInputOf } from "@/core/model/read-rig";
import { linesOfTrack } from "@/core/model/read-template";
import type { Track } from "@/core/model/tables/channels";
import type { Cue } from "@/core/model/tables/cues";
import type { Pass } from "@/core/model/tables/passes";
import type { Template } from "@/core/model/template";
import { cuesOf, levelsOfCue, ownTracksOf } from "@/core/queries/cues";
import type { Hearing } from "@/core/timing/hearing";
import { counted } from "@/core/units/counted";
import { formatGain } from "@/core/units/decibels";
import { formatMs } from "@/core/units/milliseconds";
import { useRig } from "../state/desk-context";
import classes from "./passes.module.css";

interface RunningPassProps {
  readonly doc: Template;
  readonly weft: Weft;
  readonly hearing: Hearing;
  readonly last: boolean;
  readonly onNext: () => void;
}

const MOST = 4;

/**
 * The loudest of what a cue carries while a pass runs, in words: own sound that is armed first, then what others play;
 * what is parked or not armed of one's own is silent.
 */
const heardInWords = (doc: Template, cue: Cue, pass: Pass): string => {
  const [own, armed, parked] = [
    new Set<string>(ownTracksOf(doc, cue)),
    new Set<string>(pass.trackIds),
    new Set<string>(pass.parkedIds),
  ];
  const levels = levelsOfCue(doc, cue.id).flatMap(({ on, levelDb, sourceId }) => {
    const silent = !on || levelDb === null || parked.has(sourceId) || (own.has(sourceId) && !armed.has(sourceId));
    return silent ? [] : [{ name: doc.channels[sourceId]?.name ?? "", levelDb, armed: armed.has(sourceId) }];
  });
  return [...levels]
    .sort((a, b) => Number(b.armed) - Number(a.armed) || b.levelDb - a.levelDb)
    .slice(0, MOST)
    .map(({ name, levelDb }) => `${name} ${formatGain(levelDb)}`)
    .join(", ");
};

/** The pass that runs: what is armed, heard and parked, and one key to the next. */
export const RunningPass = ({ doc, weft, hearing, last, onNext }: RunningPassProps) => {
  const rig = useRig();
  const { pass } = weft;
  const tracks = pass.trackIds.flatMap((id) => (doc.channels[id]?.kind === "track" ? [doc.channels[id] as Track] : []));
  const players = [...new Set(tracks.flatMap((track) => linesOfTrack(doc, track).map(({ player }) => player)))].filter(
    Boolean,
  );
  const inputs = [
    ...new Set(tracks.flatMap((track) => linesOfTrack(doc, track).map(({ portId }) => rigInputOf(rig, portId)))),
  ].flatMap((input) => (input ? [rigInputInWords(input)] : []));
  const cues = cuesOf(doc).filter(({ id, people }) =>
    pass.cueIds.length ? pass.cueIds.includes(id) : people.some((person) => players.includes(person)),
  );
  const latest = worstOf(hearing.paths.filter(({ wet, cueId }) => !wet && cues.some(({ id }) => id === cueId)));
  return (
    <section className={classes.now} aria-label={`Pass ${weft.at + 1}, now`}>
      <div>
        <span>Pass {weft.at + 1}, now</span>
        <b>{pass.name}</b>
        <span>{players.slice(0, MOST).join(", ") || "nobody named"}</span>
      </div>
      <div>
        <span>Armed</span>
        <span className={classes.ink}>
          {tracks
            .slice(0, MOST)
            .map(({ name }) => name)
            .join(", ")}
          {tracks.length > MOST ? ` and ${tracks.length - MOST} more` : ""}
        </span>
        <span>{inputs.slice(0, MOST).join(", ")}</span>
      </div>
      <div>
        <span>Heard</span>
        <span className={classes.ink}>
          {cues
            .map((cue) => `${cues.length > 1 ? `${cue.name}: ` : ""}${heardInWords(doc, cue, pass)}`)
            .slice(0, 2)
            .join("; ") || "no cue for who plays"}
        </span>
        {latest && (
          <span data-state={latest.state}>
            own sound {formatMs(latest.ms)}, {latest.direct ? "direct" : "computer"}
          </span>
        )}
      </div>
      <div>
        <span>Parked</span>
        <span className={classes.ink}>{counted(pass.parkedIds.length, "track")}</span>
      </div>
      <Button onClick={onNext} disabled={last} rightSection={<kbd className={classes.key}>N</kbd>}>
        {last ? "Last pass" : "Next pass"}
      </Button>
    </section>
  );
};
