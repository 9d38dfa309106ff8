import type { ChannelId, FolderId } from "../model/ids";
import { type RigInput, rigInputOf, rigInputsOf } from "../model/read-rig";
import { linesOfTrack, tracksOf } from "../model/read-template";
import type { Rig } from "../model/rig";
import { byOrder, entriesOf } from "../model/table";
import type { Track } from "../model/tables/channels";
import type { Line } from "../model/tables/lines";
import type { Template } from "../model/template";
import { linesByPort, suits } from "../queries/free-inputs";
import type { Edit, LinePort } from "./edits/edit";
import { applyAll } from "./edits/template-editing";
import { type Planned, planned, unplanned } from "./gesture";

const NOWHERE = Number.MAX_SAFE_INTEGER;

/** Where a track's first input sits on the rig, counted from the first jack; last when it has none. */
const seatOf = (doc: Template, rig: Rig) => {
  const seats = new Map(rigInputsOf(rig).map((rigInput, at) => [rigInput.port.id, at]));
  return (track: Track): number =>
    Math.min(
      NOWHERE,
      ...linesOfTrack(doc, track).map((line) => (line.portId ? (seats.get(line.portId) ?? NOWHERE) : NOWHERE)),
    );
};

const sameOrder = <T>(a: readonly T[], b: readonly T[]): boolean => a.every((item, at) => item === b[at]);

/**
 * Puts tracks within each folder, and folders among their neighbours, in the order of the inputs. Threads then cross
 * only where a family is spread over the rig.
 */
export const rowsInInputOrder = (doc: Template, rig: Rig): Planned => {
  const seat = seatOf(doc, rig);
  const folderSeat = (id: FolderId): number =>
    Math.min(
      NOWHERE,
      ...tracksOf(doc).flatMap((track) => (track.folderId === id ? [seat(track)] : [])),
      ...entriesOf(doc.folders).flatMap((folder) => (folder.parentId === id ? [folderSeat(folder.id)] : [])),
    );
  const edits: Edit[] = [];
  const homes: readonly (FolderId | null)[] = [null, ...entriesOf(doc.folders).map((folder) => folder.id)];
  for (const home of homes) {
    const tracks = tracksOf(doc).filter((track) => track.folderId === home);
    const sorted = [...tracks].sort((a, b) => seat(a) - seat(b));
    if (!sameOrder(tracks, sorted))
      edits.push({
        kind: "entries.move",
        table: "channels",
        ids: sorted.map((track) => track.id),
        parent: home,
        before: null,
      });
    const folders = entriesOf(doc.folders)
      .filter((folder) => folder.parentId === home)
      .sort(byOrder);
    const inOrder = [...folders].sort((a, b) => folderSeat(a.id) - folderSeat(b.id));
    if (!sameOrder(folders, inOrder))
      edits.push(
        ...inOrder.map(
          (folder): Edit => ({ kind: "entries.move", table: "folders", ids: [folder.id], parent: home, before: null }),
        ),
      );
  }
  return edits.length
    ? planned(edits, "Put rows in input order")
    : unplanned("The rows are in the order of their inputs already.");
};

/** The jacks for one track: the first of those left that suit it, two neighbours for a pair. */
const takeRigInputs = (
  doc: Template,
  rig: Rig,
  { lines, left }: { readonly lines: readonly Line[]; readonly left: readonly RigInput[] },
): readonly RigInput[] => {
  const [a, b] = lines;
  if (!a) return [];
  for (const rigInput of left) {
    if (!suits(doc, rig, { rigInput, line: a, ...(b ? { along: b } : {}) })) continue;
    if (!b) return [rigInput];
    const mate = left.find(
      (other) => other.port.id === rigInput.port.neighbourId && other.port.number > rigInput.port.number,
    );
    if (mate && suits(doc, rig, { rigInput: mate, line: b, along: a })) return [rigInput, mate];
  }
  return [];
};

/**
 * Deals the inputs that are in use out again in the order of the rows: each track takes the first of them that suits
 * it. Refused when a track would be left without one, as then the order can't be had on these inputs.
 */
export const inputsInRowOrder = (doc: Template, rig: Rig, order: readonly ChannelId[]): Planned => {
  const tracks = order.flatMap((id) => tracksOf(doc).find((track) => track.id === id) ?? []);
  const moving = tracks
    .map((track) => linesOfTrack(doc, track))
    .filter((lines) => lines.length > 0 && lines.every((line) => rigInputOf(rig, line.portId)));
  const used = linesByPort(doc);
  let left = rigInputsOf(rig).filter((rigInput) =>
    moving.flat().some((line) => used.get(rigInput.port.id)?.some((there) => there.id === line.id)),
  );
  const off = applyAll(doc, [
    {
      kind: "lines.patch",
      inputs: moving.flat().map((line) => ({ lineId: line.id, portId: null, requestedInput: null })),
    },
  ]);
  if (!off.ok) return unplanned(off.refusal.message);
  let current = off.doc;
  const dealt = new Map<string, LinePort>();
  for (const lines of moving) {
    if (lines.every((line) => dealt.has(line.id))) continue;
    const rigInputs = takeRigInputs(current, rig, { lines, left });
    if (!rigInputs.length)
      return unplanned(
        `The inputs can't follow the rows: none of those that are left suits ${lines[0]?.source || "a line"}. Move single lines instead.`,
      );
    const inputs = lines.map(
      (line, at): LinePort => ({ lineId: line.id, portId: rigInputs[at]?.port.id ?? null, requestedInput: null }),
    );
    const done = applyAll(current, [{ kind: "lines.patch", inputs }]);
    if (!done.ok) return unplanned(done.refusal.message);
    current = done.doc;
    for (const input of inputs) dealt.set(input.lineId, input);
    left = left.filter((rigInput) => !rigInputs.includes(rigInput));
  }
  const changed = [...dealt.values()].filter((input) => doc.lines[input.lineId]?.portId !== input.portId);
  return changed.length
    ? planned([{ kind: "lines.patch", inputs: changed }], "Put inputs in row order")
    : unplanned("The inputs are in the order of the rows already.");
};
