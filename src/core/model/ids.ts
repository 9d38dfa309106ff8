declare const brand: unique symbol;
type Id<Name extends string> = string & { readonly [brand]: Name };

export type RigId = Id<"rig">;
export type DeviceId = Id<"device">;
export type PortId = Id<"port">;
export type BankId = Id<"bank">;
export type LinkId = Id<"link">;
export type WireId = Id<"wire">;
export type MicrophoneId = Id<"microphone">;
export type FeedId = Id<"feed">;
export type LoopId = Id<"loop">;
export type MixerId = Id<"mixer">;
export type MidiPortId = Id<"midi-port">;
export type ProcessorId = Id<"processor">;
export type StudioId = Id<"studio">;
export type FamilyWordId = Id<"family-word">;
export type ListHabitId = Id<"list-habit">;
export type RoomId = Id<"room">;
export type PersonId = Id<"person">;
export type TemplateId = Id<"template">;
export type LineId = Id<"line">;
export type ChannelId = Id<"channel">;
export type FolderId = Id<"folder">;
export type SendId = Id<"send">;
/** A processor in a chain; those installed on a rig have ids of their own. */
export type ChainProcessorId = Id<"chain-processor">;
export type BandId = Id<"band">;
export type SideChainId = Id<"side-chain">;
export type GangId = Id<"gang">;
export type ControlId = Id<"control">;
export type ChainId = Id<"chain">;
export type CueId = Id<"cue">;
export type CueLevelId = Id<"cue-level">;
export type PassId = Id<"pass">;

/** Where ids come from. Chance enters the core only through this, so that replay is exact. */
export type IdSource = <T extends string>(kind: string) => T;

/** Ids in sequence (`line-1`, `line-2`): for demo data and tests, where the same input must give the same document. */
export const sequentialIds = (): IdSource => {
  const counts = new Map<string, number>();
  return <T extends string>(kind: string) => {
    const next = (counts.get(kind) ?? 0) + 1;
    counts.set(kind, next);
    return `${kind}-${next}` as T;
  };
};
