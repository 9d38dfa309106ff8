import { KINDS as KNOWN, type What } from "@/contracts/kinds";
import { type Parsed, parseCommands } from "@/contracts/validate";
import { contextOf } from "@/core/checks/context";
import type { Command } from "@/core/commands/command";
import type { Engine } from "@/core/commands/engine";
import { rigEngine } from "@/core/commands/rig-engine";
import { studioEngine } from "@/core/commands/studio-engine";
import { templateEngine } from "@/core/commands/template-engine";
import { selvedge } from "@/core/layout/rows";
import { searchText } from "@/core/layout/search-text";
import type { MigratedTo } from "@/core/migrate/migrate";
import { migrateRig } from "@/core/migrate/migrate-rig";
import { migrateStudio } from "@/core/migrate/migrate-studio";
import { migrateTemplate } from "@/core/migrate/migrate-template";
import { perDocument, perTwo } from "@/core/model/per-document";
import { rigInputsOf } from "@/core/model/read-rig";
import { tracksOf } from "@/core/model/read-template";
import type { Rig } from "@/core/model/rig";
import type { Studio } from "@/core/model/studio";
import { entriesOf } from "@/core/model/table";
import type { Template } from "@/core/model/template";
import { formatRate } from "@/core/units/hertz";
import { Failure } from "../services/failure";

/** What the library shows of a template without looking into its document. */
export interface TemplateFacts {
  readonly rateAndDepth: string;
  readonly inputs: number;
  readonly tracks: number;
  readonly selvedge: readonly string[];
  /** Dyes of the studio's own that anything in it has. */
  readonly ownColours: readonly string[];
  readonly tags: readonly string[];
  /** Of a session: where it is. */
  readonly place: string;
}

export interface RigFacts {
  readonly inputs: number;
  readonly devices: number;
}

interface Kind<D> {
  readonly engine: Engine<D>;
  readonly parse: (values: readonly object[]) => Parsed<readonly Command[]>;
  readonly migrate: (value: unknown) => MigratedTo<D>;
  /** What the row of the head copies out of the document, by column. */
  readonly copies: (doc: D) => Readonly<Record<string, string>>;
}

/** The threads of a template hang on its tracks and folders alone: the same for as long as those are. */
const threads = perTwo((channels: Template["channels"], folders: Template["folders"]) =>
  selvedge({ channels, folders, lines: {} } as unknown as Template),
);

/** Dyes that the studio added, of tracks, buses, folders and control faders. */
const ownIn = perDocument((table: Readonly<Record<string, { readonly colour?: string | null }>>): readonly string[] =>
  entriesOf(table).flatMap(({ colour }) => (colour?.startsWith("own-") ? [colour] : [])),
);
const ownColoursIn = ({ channels, folders, controls }: Template): readonly string[] =>
  [
    ...new Set(
      [channels, folders, controls].flatMap((table) =>
        ownIn(table as Readonly<Record<string, { readonly colour?: string | null }>>),
      ),
    ),
  ].sort();

const templateFacts = (doc: Template): TemplateFacts => ({
  rateAndDepth: `${formatRate(doc.format.sampleRateHz)} · ${doc.format.bitDepth} bit`,
  inputs: Object.keys(doc.lines).length,
  tracks: tracksOf(doc).length,
  selvedge: threads(doc.channels, doc.folders),
  ownColours: ownColoursIn(doc),
  tags: doc.tags,
  place: doc.session.place,
});

const rigFacts = (rig: Rig): RigFacts => ({
  inputs: rigInputsOf(rig).filter((rigInput) => !rigInput.occupied && !rigInput.loopBack).length,
  devices: entriesOf(rig.devices).length,
});

const template: Kind<Template> = {
  engine: templateEngine,
  parse: (values) => parseCommands("template", values),
  migrate: migrateTemplate,
  copies: perDocument((doc: Template) => ({
    name: doc.name,
    kind: doc.kind,
    search: searchText(doc),
    rig_id: doc.rigId,
    session_date: doc.session.date ?? "",
    session_state: doc.session.date === null ? "" : doc.session.state,
    summary: JSON.stringify(templateFacts(doc)),
  })),
};
const rig: Kind<Rig> = {
  engine: rigEngine,
  parse: (values) => parseCommands("rig", values),
  migrate: migrateRig,
  copies: (doc) => ({ name: doc.name, summary: JSON.stringify(rigFacts(doc)) }),
};
const studio: Kind<Studio> = {
  engine: studioEngine,
  parse: (values) => parseCommands("studio", values),
  migrate: migrateStudio,
  copies: (doc) => ({ name: doc.name }),
};

const KINDS: { readonly [W in What]: Kind<DocumentOf[W]> } = { template, rig, studio };
export interface DocumentOf {
  readonly template: Template;
  readonly rig: Rig;
  readonly studio: Studio;
}

export const kindOf = <W extends What>(what: W): Kind<DocumentOf[W]> => KINDS[what] as unknown as Kind<DocumentOf[W]>;

/** Whether a stored document has today's shape, by its first field: told without reading the rest. */
export const isCurrent = (what: What, text: string): boolean =>
  text.startsWith(`{"schema":${KNOWN[what].description.schema},`);

/**
 * A stored document of any version in today's shape. One that can't be brought up is told as such, with what can still
 * be done with it.
 */
export const readStored = <W extends What>(what: W, text: string): DocumentOf[W] => {
  const { migrate } = kindOf(what);
  const { schema } = KNOWN[what].description;
  const value: unknown = JSON.parse(text);
  if (typeof value === "object" && value !== null && "schema" in value && value.schema === schema)
    return value as DocumentOf[W];
  const migrated = migrate(value);
  if (migrated.ok) return migrated.doc;
  throw new Failure(
    422,
    `The ${what} can't be read`,
    `${migrated.message} It can be exported as it is stored (export?format=raw) and deleted.`,
  );
};

/** A template and what it is seen against, as they are stored. */
export interface Seen {
  readonly template: string;
  readonly rigs: readonly string[];
  readonly studio: string;
}

export const contextIn = ({ template, rigs, studio }: Seen) =>
  contextOf({
    doc: readStored("template", template),
    rigs: rigs.map((rig) => readStored("rig", rig)),
    studio: readStored("studio", studio),
  });
