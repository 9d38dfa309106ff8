import { screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { Template } from "@/core/model/template";
import { processorsOf } from "@/core/queries/chains";
import {
  button,
  type Desktop,
  dialog,
  dialogHasKeys,
  grid,
  hasKeys,
  inspector,
  isLabelled,
  labelled,
  named,
  noneLabelled,
  openDemo,
  openEmpty,
  paste,
  row,
  says,
  undoOf,
} from "../testing/open";

const nine = async (): Promise<Desktop> => {
  const desktop = await openDemo("flow", "tidewrack-nine");
  await shows("Main, main bus");
  return desktop;
};
/** Something in the picture, by its name and what it is. */
const shows = (name: string): Promise<void> => waitFor(() => void labelled(name));
const keysAt = (name: string): Promise<void> => waitFor(() => hasKeys(labelled(name)));
/** Selects by keys: the first, and others below it with Shift. */
const select = async ({ press }: Desktop, name: string, more = 0): Promise<void> => {
  await shows(name);
  labelled(name).focus();
  await press("Enter", ...Array.from({ length: more }, () => "Shift+ArrowDown"));
};
/** Opens a dialog by its key, and types into it once it has the keys. */
const ask = async ({ press, type }: Desktop, key: string, text: string): Promise<void> => {
  await press(key);
  await dialogHasKeys();
  await type(text);
};
/** The same where one of a list is asked for: Enter takes what is marked, and does nothing yet. */
const askFor = async (desktop: Desktop, key: string, text: string): Promise<void> => {
  await ask(desktop, key, text);
  await desktop.press("Enter");
  expect(screen.queryByRole("dialog")).not.toBeNull();
};
const pickSeveral = async ({ press, type }: Desktop, names: readonly string[]): Promise<void> => {
  await dialogHasKeys();
  for (const name of names) {
    await type(name);
    await press("Enter");
  }
};
const confirm = async ({ user }: Desktop): Promise<void> => {
  await user.click((await dialog()).querySelector("button[type=submit]") ?? expect.unreachable());
  await noDialog();
};
const noDialog = () => waitFor(() => expect(screen.queryByRole("dialog") === null).toBe(true));
const set = async ({ fill, press }: Desktop, label: string, text: string): Promise<void> => {
  const [field] = await within(await inspector()).findAllByLabelText(label);
  await fill(field as HTMLElement, text);
  await press("Enter");
};
/** Where a channel goes, by name. */
const outputOf = (doc: Template, name: string): string => {
  const all = Object.values(doc.channels).filter((one) => one.name === name);
  const channel = all.find(({ kind }) => kind === "track") ?? all[0];
  return channel?.output.kind === "channel"
    ? (doc.channels[channel.output.channelId]?.name ?? "")
    : (channel?.output.kind ?? "not there");
};
const listed = (region: string) => async () =>
  within(within(await inspector()).getByRole("region", { name: region }))
    .getAllByRole("listitem")
    .map(({ textContent }) => textContent ?? "");
const down = listed("Down: where it goes");
const up = listed("Up: what feeds it");

describe("a way", () => {
  it("is told in words along a thread by arrows; routed by typing a name, to a new bus by saying so, and taken back", async () => {
    const desktop = await nine();
    const { press, saved } = desktop;
    await select(desktop, "Fiddle");
    await waitFor(async () =>
      expect(await down()).toEqual([
        "Input 9 Clip-on condenser 1, line ← Thistle 1, 48 V",
        "Fiddle records here",
        "Equaliser 2 bands",
        "Compressor 2 : 1, −16 dB",
        "Stair chamber by a send −15 dB, after the fader",
        "Strings sums 2",
        "Main trimmed by −12.5 dB, sums 8, reached after 190 samples, 4 ms; held back by 190 samples, 4 ms",
        "Outputs 1–2 out of the interface",
      ]),
    );
    await press("ArrowRight");
    await keysAt("Strings, bus");
    await waitFor(async () =>
      expect(await up()).toEqual([expect.stringMatching(/^Cimbalom/), expect.stringMatching(/^Fiddle/)]),
    );
    await press("ArrowRight");
    await keysAt("Main, main bus");
    await select(desktop, "Fiddle");
    await askFor(desktop, "Alt+r", "Wood");
    await screen.findByRole("button", { name: "Make the bus “Wood” and route Fiddle" });
    await press("Enter");
    await shows("Wood, bus");
    const doc = await saved();
    expect([outputOf(doc, "Fiddle"), outputOf(doc, "Wood")]).toEqual(["Wood", "Strings"]);
    await press("Control+z");
    await noneLabelled("Wood, bus");
    expect(outputOf(await saved(), "Fiddle")).toBe("Strings");
  });

  it("past the bus of a folder is told on every screen, leads there, and its fix clears it", async () => {
    const desktop = await nine();
    await select(desktop, "Fiddle");
    await askFor(desktop, "Alt+r", "Main");
    await desktop.press("Enter");
    await desktop.user.click(screen.getByRole("link", { name: /^Input list/ }));
    await waitFor(grid);
    await desktop.user.click(await screen.findByRole("button", { name: /problem/ }));
    await desktop.user.click(await screen.findByRole("button", { name: /Fiddle goes to Main past the bus Strings/ }));
    await shows("Main, main bus");
    await desktop.user.click(await screen.findByRole("button", { name: "Route Fiddle to Strings" }));
    await waitFor(async () => expect(outputOf(await desktop.saved(), "Fiddle")).toBe("Strings"));
  });

  it("to a bus whose name is typed as the output makes it once", async () => {
    const desktop = await nine();
    await select(desktop, "Fiddle");
    await waitFor(async () =>
      expect(within(await inspector()).getAllByLabelText<HTMLInputElement>("Output")[0]?.value).toBe("Strings"),
    );
    await set(desktop, "Output", "Odd bus");
    await shows("Odd bus, bus");
    expect(Object.values((await desktop.saved()).channels).filter(({ name }) => name === "Odd bus")).toHaveLength(1);
  });

  it("of a narrator dry and through two chains at once is told of each track", async () => {
    const desktop = await openEmpty("inputs", "whole-mill");
    grid().focus();
    await paste("Input\tSource\n1\tNarrator\n");
    await waitFor(() => row("Narrator"));
    await desktop.user.click(screen.getByRole("link", { name: /^Signal flow/ }));
    await select(desktop, "Narrator, track");
    await desktop.press("Alt+Shift+v");
    await pickSeveral(desktop, ["Close speech", "Telephone"]);
    expect((await dialog()).textContent).toContain("2 further tracks on the same line");
    await confirm(desktop);
    await select(desktop, "Narrator Telephone, track");
    await waitFor(async () =>
      expect(await down()).toEqual([
        expect.stringMatching(/^Input 1/),
        "Narrator Telephone records here after its chain",
        "High-pass 400 Hz, 24 dB/oct",
        "Low-pass 3.2 kHz, 24 dB/oct",
        "Saturation drive 9 dB",
        "Nowhere it is recorded, and not heard",
      ]),
    );
    await select(desktop, "Narrator, track");
    await waitFor(async () => expect((await down()).slice(1, 3)).toEqual(["Narrator records here", "Main sums 1"]));
    expect(Object.values((await desktop.saved()).lines)).toHaveLength(1);
  });
});

describe("sends", () => {
  it("of a range go to a new return in one act, at a level, and are set in the inspector", async () => {
    const desktop = await nine();
    const { press, type, saved } = desktop;
    await select(desktop, "Clarinet", 2);
    await waitFor(async () =>
      expect(within(await inspector()).getByRole("heading", { level: 2 }).textContent).toBe("3 channels"),
    );
    await askFor(desktop, "Alt+s", "Mill race");
    await press("Tab");
    await type("−20");
    await press("Enter");
    await shows("Mill race, 3 sends, return");
    const doc = await saved();
    const race = named(doc, "Mill race");
    expect(Object.values(doc.sends).filter(({ toId }) => toId === race.id)).toMatchObject([
      { levelDb: -20, tap: "after", on: true },
      { levelDb: -20 },
      { levelDb: -20 },
    ]);
    // What they all go to is where the return goes as well.
    expect(outputOf(doc, "Mill race")).toBe("Winds");
    await select(desktop, "Trumpet");
    const sends = within(await within(await inspector()).findByRole("region", { name: "Sends" }));
    const level = sends.getByRole<HTMLInputElement>("textbox", { name: "Level in dB" });
    await desktop.fill(level, "-inf");
    await press("Enter");
    await waitFor(() => expect(level.value).toBe("−∞"));
  });

  it("are moved to another channel with their level; an instrument comes with tracks for its outputs", async () => {
    const desktop = await nine();
    const { user, press, type, saved } = desktop;
    await select(desktop, "Lead voice, track");
    await user.click(
      await within(await inspector()).findByRole("button", { name: "Move the send to Plate to another channel" }),
    );
    await dialogHasKeys();
    await type("Cimbalom");
    await press("Enter");
    await user.click(within(await dialog()).getByRole("button", { name: "Move the send" }));
    await waitFor(async () => expect(within(await inspector()).queryByRole("region", { name: "Sends" })).toBeNull());
    await ask(desktop, "Alt+v", "Drum machine");
    await press("Tab");
    await type("4");
    await press("Tab");
    await type("1-2, 4");
    await press("Enter");
    await shows("Drum machine, instrument");
    await select(desktop, "Drum machine 4, track");
    await waitFor(async () =>
      expect((await down()).slice(0, 3)).toEqual([
        expect.stringMatching(/^MIDI in 1/),
        "Drum machine output 4",
        "Drum machine 4 records output 4 here",
      ]),
    );
    const made = await saved();
    const moved = Object.values(made.sends).find(({ fromId }) => fromId === named(made, "Cimbalom").id);
    expect(moved).toMatchObject({ levelDb: -12, tap: "before", toId: named(made, "Plate").id });
  });
});

describe("faders", () => {
  it("are typed, nonsense is told, and what is removed says first what goes with it", async () => {
    const desktop = await nine();
    await select(desktop, "Percussion, ");
    await set(desktop, "Fader in dB", "loud");
    await says(/“loud” is no number of dB/);
    await set(desktop, "Fader in dB", "-4.5");
    await isLabelled("Percussion, ", "Percussion, −4.5 dB, bus");
    labelled("Percussion, ").focus();
    await desktop.press("Delete");
    expect((await dialog()).textContent).toContain("5 channels go where it went; Percussion no longer sums.");
    await desktop.user.click(within(await dialog()).getByRole("button", { name: "Remove Percussion" }));
    await noneLabelled("Percussion, ");
    const doc = await desktop.saved();
    expect([outputOf(doc, "Snare"), outputOf(doc, "Percussion")]).toEqual(["Main", "not there"]);
  });

  it("of a held pair go to −∞ and come back with their balance; one silent by itself is said to stay", async () => {
    const desktop = await nine();
    const db = (doc: Template, name: string) => named(doc, name).faderDb;
    const balance = (doc: Template): number => (db(doc, "Double bass") ?? 0) - (db(doc, "Double bass DI") ?? 0);
    const before = desktop.service.doc as Template;
    await select(desktop, "Double bass DI, track");
    await set(desktop, "Fader in dB", "−∞");
    await waitFor(async () => {
      const silent = await desktop.saved();
      expect([db(silent, "Double bass"), db(silent, "Double bass DI")]).toEqual([null, null]);
    });
    await waitFor(async () =>
      expect((await inspector()).textContent).toMatch(/Double bass stood at .* dB before silence/),
    );
    await select(desktop, "Double bass, track");
    await within(await inspector()).findByRole("heading", { name: "Double bass" });
    await set(desktop, "Fader in dB", "-9");
    await waitFor(async () => expect(db(await desktop.saved(), "Double bass")).toBe(-9));
    expect(balance(await desktop.saved())).toBeCloseTo(balance(before), 1);
  });

  it("of two microphones of one source are blended to one track in one act, by a share, and held together", async () => {
    const desktop = await openEmpty("inputs", "whole-mill");
    const { press, type, saved, user, service } = desktop;
    grid().focus();
    const names = ["Bass", "Fiddle"].flatMap((name) => [`${name} near`, `${name} far`]);
    await paste(`Input\tSource\n${names.map((name, at) => `${at + 1}\t${name}`).join("\n")}\n`);
    await waitFor(() => row("Fiddle far"));
    await user.click(screen.getByRole("link", { name: /^Signal flow/ }));
    await saved();
    const before = service.head;
    for (const name of ["Bass", "Fiddle"]) {
      await select(desktop, `${name} near, track`, 1);
      await press("Alt+Shift+q");
      await dialogHasKeys();
      expect((await dialog()).querySelector("input")?.value).toBe(name);
      await press("Tab");
      await type("70 %");
      await waitFor(async () =>
        expect((await dialog()).textContent).toContain(`${name} far gets the rest, 30 %, −10.46 dB.`),
      );
      await press("Enter");
      await shows(`${name} blend, bus`);
    }
    const made = await saved();
    expect([service.head - before <= 2, Object.keys(made.gangs).length]).toEqual([true, 2]);
    const stand = (doc: Template) => ["Bass near", "Bass far"].map((name) => named(doc, name).faderDb);
    expect(stand(made)).toEqual([-3.1, -10.46]);
    expect(named(made, "Bass")).toMatchObject({
      kind: "track",
      input: { kind: "bus", busId: named(made, "Bass blend").id },
      output: { kind: "channel", channelId: "main" },
    });
    // One fader of a pair moves both, at the end stop too, and back to the same difference.
    await select(desktop, "Bass far, track");
    await within(await inspector()).findByRole("heading", { name: "Bass far" });
    await set(desktop, "Fader in dB", "8");
    await waitFor(async () =>
      expect(named(await saved(), "Bass near")).toMatchObject({ faderDb: 12, pastEndDb: 3.36 }),
    );
    await set(desktop, "Fader in dB", "−10.46");
    await waitFor(async () => expect(stand(await saved())).toEqual([-3.1, -10.46]));
    const alone = () => screen.getByRole<HTMLInputElement>("switch", { name: "Next move alone" });
    await user.click(alone());
    await set(desktop, "Fader in dB", "−6");
    await waitFor(async () => expect(stand(await saved())).toEqual([-3.1, -6]));
    expect(alone().checked).toBe(false);
  });

  it("of control ride on one another, are told at a channel, and a circle is refused", async () => {
    const desktop = await nine();
    const { user, press, saved } = desktop;
    await select(desktop, "Voices, bus");
    await askFor(desktop, "Alt+Shift+o", "All but");
    await user.click(within(await dialog()).getByRole("button", { name: "Put Voices under it" }));
    await says("They add nothing now.");
    await user.click(button("Control faders 1"));
    const panel = () => within(screen.getByRole("complementary", { name: "Control faders" }));
    await desktop.fill(panel().getByLabelText("Fader in dB"), "−6");
    await press("Enter");
    await user.click(panel().getByRole("button", { name: "Add a control fader…" }));
    await dialogHasKeys();
    await desktop.type("Everything");
    await press("Enter");
    await waitFor(() => expect(panel().getAllByLabelText("Under")).toHaveLength(2));
    const rides = async (at: number, on: string) => {
      await user.click(panel().getAllByLabelText("Under")[at] as HTMLElement);
      await user.click((await screen.findAllByRole("option", { name: on })).at(-1) as HTMLElement);
    };
    await rides(0, "Everything");
    await rides(1, "All but voices");
    await says(/lies in itself/);
    await user.click(panel().getByRole("button", { name: "Close" }));
    await select(desktop, "Voices, bus");
    await says("They add −6 dB.");
    expect(Object.values((await saved()).controls).map(({ name, faderDb }) => [name, faderDb])).toEqual([
      ["All but voices", -6],
      ["Everything", 0],
    ]);
  });
});

describe("families", () => {
  it("no longer sum, and sum again", async () => {
    const desktop = await nine();
    await select(desktop, "Lead voice");
    await askFor(desktop, "Alt+Shift+b", "Main");
    await desktop.press("Enter");
    await noneLabelled("Voices, bus");
    labelled("Lead voice").focus();
    await desktop.press("Alt+Shift+s");
    await shows("Voices, bus");
    const doc = await desktop.saved();
    expect([outputOf(doc, "Second voice"), outputOf(doc, "Lead voice")]).toEqual(["Voices", "Voices"]);
  });

  it("begin a template by their buses; one dropped says what goes with it, and comes back by one undo", async () => {
    const desktop = await openEmpty("flow");
    const { press, type, saved, user } = desktop;
    await shows("Main, main bus");
    await ask(desktop, "Alt+n", "Brass");
    await press("Tab");
    await type("3");
    await press("Enter");
    await shows("Brass 3, track");
    await select(desktop, "Brass 2");
    await askFor(desktop, "Alt+s", "Hall");
    await press("Enter");
    await shows("Hall, return");
    const before = await saved();
    await select(desktop, "Brass 1");
    await press("Alt+x");
    expect((await dialog()).textContent).toContain("Goes with it: 3 tracks, the bus Brass, the return Hall, 1 send.");
    await user.click(button("Drop Brass"));
    await noneLabelled("Brass, bus");
    await press("Control+z");
    await shows("Brass, bus");
    expect(await saved()).toEqual(before);
  });
});

describe("one act each", () => {
  it("ducks music under three actors; an actor who goes takes theirs", async () => {
    const desktop = await openDemo("flow", "ferrymans-ghost");
    await select(desktop, "Foley table, track", 1);
    await desktop.press("Alt+Shift+y");
    await pickSeveral(desktop, ["Ferryman", "Widow", "Boy"]);
    await desktop.fill(screen.getByLabelText("By how many dB"), "6");
    await within(await dialog()).findByRole("button", { name: "Duck 2 channels" });
    await confirm(desktop);
    const made = await desktop.saved();
    expect(["Foley table", "Foley steps"].map((name) => processorsOf(made, named(made, name).id)[0])).toMatchObject([
      { kind: "compressor", name: "Ducking", rangeDb: 6 },
      { kind: "compressor", rangeDb: 6 },
    ]);
    expect(Object.values(made.sideChains)).toHaveLength(12);
    await select(desktop, "Boy, track");
    await waitFor(async () => expect((await down()).join()).toContain("Steers Foley table its ducking"));
    await desktop.user.click(screen.getByRole("link", { name: /^Input list/ }));
    await waitFor(() => row("Boy"));
    await desktop.user.click(within(row("Boy")).getAllByText("Boy")[0] as HTMLElement);
    await desktop.press("Delete");
    await undoOf("Remove Boy");
    expect(Object.values((await desktop.saved()).sideChains)).toHaveLength(8);
  });

  it("keeps one way lit, makes two bands, a bus beside, a throw and an amplifier; each is one undo", async () => {
    const desktop = await nine();
    const { press, saved } = desktop;
    const before = Object.keys((desktop.service.doc as Template).processors).length;
    await select(desktop, "Fiddle, track");
    await press("Alt+q");
    await screen.findByRole("button", { name: "Alone: Fiddle" });
    await select(desktop, "Snare, track");
    const lit = (name: string, opacity: string) =>
      waitFor(() => expect(labelled(name).getAttribute("opacity")).toBe(opacity));
    await lit("Snare, track", "0.4");
    await lit("Fiddle, track", "1");
    await press("Alt+q");
    await lit("Snare, track", "1");
    const accept = async (key: string): Promise<void> => {
      await press(key);
      await dialogHasKeys();
      await confirm(desktop);
    };
    await accept("Alt+Shift+p");
    await shows("Snare high, bus");
    await select(desktop, "Trumpet, track");
    await desktop.user.click(await screen.findByRole("button", { name: "Lay a bus beside Trumpet…" }));
    await dialogHasKeys();
    await confirm(desktop);
    await shows("Parallel, bus");
    await select(desktop, "Clarinet, track");
    await askFor(desktop, "Alt+Shift+e", "Plate");
    await confirm(desktop);
    await waitFor(async () =>
      expect(within(await inspector()).getAllByLabelText<HTMLInputElement>("Output")[0]?.value).toBe("Nowhere"),
    );
    await select(desktop, "Cimbalom, track");
    await press("Alt+Shift+z");
    expect((await dialog()).textContent).toContain("A passage at −18 dBFS leaves at −10 dBu.");
    await confirm(desktop);
    await shows("Cimbalom to amplifier, bus");
    expect(named(await saved(), "Cimbalom amplified")).toMatchObject({ kind: "track", input: { kind: "line" } });
    await press("Control+z", "Control+z", "Control+z", "Control+z");
    await noneLabelled("Snare high, bus");
    expect(Object.keys((await saved()).processors)).toHaveLength(before);
  });

  it("puts a processor on several, a chain behind others, and a note on several; each is one undo", async () => {
    const desktop = await nine();
    const { press, type, saved, user } = desktop;
    const kinds = async (name: string) => {
      const now = await saved();
      return processorsOf(now, named(now, name).id).map(({ kind }) => kind);
    };
    await select(desktop, "Lead voice, track", 1);
    await askFor(desktop, "Alt+w", "Gate");
    await press("Enter");
    await noDialog();
    expect([await kinds("Lead voice"), await kinds("Second voice")].map((all) => all.includes("gate"))).toEqual([
      true,
      true,
    ]);
    await set(desktop, "Note", "close");
    await undoOf(/^Undo: .*ote/);
    const noted = await saved();
    expect(["Lead voice", "Second voice"].map((name) => named(noted, name).note)).toEqual(["close", "close"]);
    await user.click(button(/^Undo/));
    await user.click(await undoOf(/^Undo: Put a gate on 2 channels/));
    await waitFor(async () => expect(await kinds("Second voice")).not.toContain("gate"));
    const had = (await kinds("Trumpet")).length;
    await select(desktop, "Fiddle, track");
    await press("Alt+Shift+h");
    await dialogHasKeys();
    await type("Trumpet");
    await press("ArrowDown", "Enter", "Tab");
    await user.click(within(await dialog()).getByRole("button", { name: "Add the chain" }));
    await noDialog();
    expect((await kinds("Trumpet")).length).toBe(had + (await kinds("Fiddle")).length);
  });

  it("of each editor in the inspector is taken back by Ctrl Z", async () => {
    const desktop = await nine();
    const { user, press } = desktop;
    await select(desktop, "Plate, ");
    await within(await inspector()).findByRole("heading", { name: "Plate" });
    const typed = (label: string, text: string) => () => set(desktop, label, text);
    const switched = (name: string) => async () =>
      user.click(await within(await inspector()).findByRole("switch", { name }));
    const chosen = (label: string, option: string) => async () => {
      await user.click(within(await inspector()).getAllByLabelText(label)[0] as HTMLElement);
      await user.click(await screen.findByRole("option", { name: option }));
    };
    const undone = async (does: () => Promise<void>, name: string) => {
      await does();
      await undoOf(name);
      await press("Control+z");
      await screen.findByRole("button", { name: "Nothing to undo" });
    };
    await undone(typed("Name", "Big plate"), "Rename Plate to Big plate");
    await undone(typed("Fader in dB", "-3"), "Set the fader of Plate to −3 dB");
    await undone(typed("Balance", "L 20"), "Pan Plate 20 % left");
    await undone(typed("Output", "Voices"), "Route Plate to Voices");
    await undone(chosen("Layout", "mono"), "Make Plate mono");
    await undone(switched("Muted"), "Mute Plate");
    await undone(switched("Parked"), "Park Plate");
    await select(desktop, "Fiddle");
    await within(await inspector()).findByRole("heading", { name: "Fiddle" });
    await undone(
      chosen("Before / after the fader", "before the fader"),
      "Send Fiddle to Stair chamber before the fader",
    );
    await undone(switched("Send to Stair chamber"), "Send Fiddle to Stair chamber switched off");
    await undone(
      async () =>
        user.click(within(await inspector()).getByRole("button", { name: "Take off the send to Stair chamber" })),
      "Take off the send of Fiddle to Stair chamber",
    );
  });
});
