import { screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { Template } from "@/core/model/template";
import {
  button,
  copied,
  dialog,
  dialogHasKeys,
  isLabelled,
  labelled,
  noneLabelled,
  openDemo,
  paste,
  says,
  undoOf,
} from "../testing/open";

const matrix = () => screen.getByRole("grid", { name: "How loud everybody hears what" });
const heads = () => within(matrix()).getAllByRole("columnheader");
const head = (name: string): Promise<HTMLElement> =>
  screen.findByRole("columnheader", { name: new RegExp(`^${name},`) });
const levelOf = (doc: Template, source: string, cue: string) => {
  const cueId = Object.values(doc.cues).find(({ name }) => name === cue)?.id;
  return Object.values(doc.cueLevels).find(
    (level) => level.cueId === cueId && doc.channels[level.sourceId]?.name === source,
  );
};
const noDialog = () => waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
const nine = async () => {
  const desktop = await openDemo("cues", "tidewrack-nine");
  await screen.findByRole("grid");
  return desktop;
};

describe("cues", () => {
  it("four for nine people come from the main mix, each with more of own sound, by keyboard", async () => {
    const { press, type, saved, service } = await nine();
    await waitFor(() => expect(document.activeElement === matrix()).toBe(true));
    // Begin with none: the four of the demo go in one act.
    await press("Shift+End", "Alt+x");
    expect((await dialog()).textContent).toContain("levels go with it");
    await waitFor(() => expect(document.activeElement?.textContent).toMatch(/^Remove/));
    await press("Enter");
    await screen.findByRole("heading", { name: "Nobody hears anything yet" });
    for (const people of [["Ilse"], ["Juno", "Pell"], ["Bram", "Hob"], ["Wynn", "Odile", "Kester", "Mab"]]) {
      await press("Alt+a");
      await dialogHasKeys();
      for (const person of people) {
        await type(person);
        await waitFor(() => expect(screen.getAllByRole("option")[0]?.textContent).toContain(person));
        await press("Enter");
      }
      await press("Tab", "Enter");
      await noDialog();
      await head(people.length > 2 ? "Wynn and 3 more" : people.join(" and "));
      await press("Alt+l");
    }
    const doc = await saved();
    expect(Object.values(doc.cues).map(({ portIds }) => portIds.join())).toEqual(
      [3, 5, 7, 9].map((n) => `brindle:out:${n},brindle:out:${n + 1}`),
    );
    // One act to begin with none, one for each cue and one for more of each: nine of the forty there may be.
    expect(service.head).toBe(10);
    expect(
      [
        ["Lead voice", "Ilse"],
        ["Sousaphone", "Bram and Hob"],
        ["Fiddle", "Ilse"],
      ].map(([source = "", cue = ""]) => levelOf(doc, source, cue)?.levelDb),
    ).toEqual([3, 3, 0]);
  });

  it("keep somebody whom nobody knows yet as typed, and say that nothing is their own sound", async () => {
    const { press, type, saved } = await nine();
    await press("Alt+a");
    await dialogHasKeys();
    await type("Quill the guest");
    await press("Tab");
    await waitFor(async () =>
      expect((await dialog()).textContent).toContain(
        "No line of this list is played by Quill the guest: nothing is marked as their own sound.",
      ),
    );
    await press("Enter");
    await noDialog();
    await head("Quill");
    expect(Object.values((await saved()).cues).map(({ people }) => people.join())).toContain("Quill the guest");
  });

  it("tell who hears themself twice and how far apart, and one act silences the copy", async () => {
    const { user } = await nine();
    const juno = await screen.findByRole("columnheader", { name: /^Juno,.*late$/ });
    await user.click(juno);
    await says("Juno Ashby hears Cimbalom, Second voice twice, 3.1 ms apart: a hollow at 163.8 Hz.");
    await user.click(await screen.findByRole("button", { name: "2 problems" }));
    const panel = await screen.findByRole("complementary", { name: "Findings" });
    expect(panel.textContent).toContain(
      "Juno Ashby hears Second voice twice in Juno, direct and 3.1 ms later through the computer: with the first hollow at 163.8 Hz, down to nothing.",
    );
    await user.click(within(panel).getByRole("button", { name: "Silence the computer's copy" }));
    await screen.findByRole("columnheader", { name: /^Juno,.*own sound after 0.9 ms of \d · direct, on time$/ });
  });

  it("for a far guest, mixed in the interface, are made by keyboard", async () => {
    const { user, press, type, saved, choose } = await openDemo("cues", "ferrymans-ghost");
    await press("Alt+a");
    await dialogHasKeys();
    await type("Far");
    await press("Enter");
    await choose("Heard", /at the far end/);
    await choose("Mixed in", "the interface's own mixer");
    expect((await dialog()).textContent).toContain("heard before the computer has it");
    await user.click(button("Add the cue"));
    const { cues, cueLevels, channels } = await saved();
    const made = Object.values(cues).find(({ name, hearing }) => name === "Far" && hearing === "far");
    expect(made).toMatchObject({ mixedIn: "interface", people: ["Far guest"] });
    expect(
      Object.values(cueLevels)
        .filter(({ cueId }) => cueId === made?.id)
        .map(({ sourceId }) => channels[sourceId]?.name),
    ).not.toContain("Far guest");
  });

  it("for everyone who plays come in one act", async () => {
    const { user, press, saved } = await nine();
    expect(heads()).toHaveLength(5);
    await user.click(await head("Juno"));
    await press("Shift+End", "Alt+x");
    await waitFor(() => expect(document.activeElement?.textContent).toBe("Remove 3 cues"));
    await press("Enter");
    await user.click(await screen.findByRole("button", { name: "Add a cue for everyone who plays…" }));
    expect((await dialog()).textContent).toContain("get a cue each, begun as the main mix");
    await press("Enter");
    expect(Object.values((await saved()).cues).flatMap((cue) => cue.people)).toHaveLength(9);
    await waitFor(() => expect(screen.queryByRole("button", { name: /for everyone who plays/ })).toBeNull());
  });
});

describe("levels of cues", () => {
  it("are typed, nudged, put before or after the fader, taken out, for a range and for a folded folder; each is taken back", async () => {
    const { user, press, type, saved } = await nine();
    await user.click(labelled("Snare in Ilse: "));
    await type("-20.5 a");
    await press("Enter");
    await isLabelled("Snare in Ilse: ", "Snare in Ilse: −20.5 dB, after the fader");
    await waitFor(() =>
      expect(matrix().getAttribute("aria-activedescendant")).toBe(labelled("Shaker table in Ilse: ").id),
    );
    await press("Shift+ArrowRight", "Alt+Shift+ArrowUp");
    await isLabelled("Shaker table in Juno: ", /−14 dB/);
    await isLabelled("Shaker table in Ilse: ", /−17 dB/);
    await press("Alt+Shift+,");
    await isLabelled("Shaker table in Juno: ", /after the fader/);
    await press("Alt+Shift+x");
    await isLabelled("Shaker table in Ilse: ", /off$/);
    await press("Delete");
    await isLabelled("Shaker table in Ilse: ", "Shaker table in Ilse: not heard");
    await press("Control+z");
    await isLabelled("Shaker table in Ilse: ", /off$/);
    await press("Control+z");
    await isLabelled("Shaker table in Ilse: ", /−17 dB, after the fader$/);
    // A whole folder: the loudest of it comes to what is typed, the others keep their distance.
    await user.click(labelled("Percussion in Ilse: "));
    await press(" ");
    await isLabelled("Percussion in Ilse: ", /up to −17 dB/);
    await noneLabelled("Snare in Ilse: ");
    await type("-10");
    await press("Enter");
    const doc = await saved();
    expect(levelOf(doc, "Shaker table", "Ilse")?.levelDb).toBe(-10);
    expect(levelOf(doc, "Snare", "Ilse")?.levelDb).toBe(-13.5);
    await user.click(labelled("Fiddle in Ilse: "));
    await type("loud");
    const field = () => screen.getByRole<HTMLInputElement>("textbox", { name: "Fiddle in Ilse" });
    expect(field().value).toBe("loud");
    await press("Enter");
    await says(/“loud” is no level/);
    expect(field().value).toBe("loud");
    await press("Escape");
    await isLabelled("Fiddle in Ilse: ", /−12 dB/);
  });

  it("are copied and pasted; a letter opens the field and switches nothing", async () => {
    const { user, press } = await nine();
    await user.click(labelled("Fiddle in Ilse: "));
    expect(await copied()).toMatch(/^−\d+(\.\d)? b$/);
    await press("o");
    expect(screen.getByRole<HTMLInputElement>("textbox", { name: "Fiddle in Ilse" }).value).toBe("o");
    await press("Escape");
    expect(labelled("Fiddle in Ilse: ").getAttribute("aria-label")).not.toMatch(/off$/);
    await paste("-3 a L30\t-4 b\nloud\t");
    await says(/“loud” is no level/);
    await isLabelled("Fiddle in Ilse: ", /^Fiddle in Ilse: −3 dB, after the fader/);
    await isLabelled("Fiddle in Juno: ", /−4 dB/);
    await user.click(await undoOf(/^Undo: Paste 3 levels of cues/));
    await isLabelled("Fiddle in Ilse: ", /−12 dB/);
  });
});

describe("levels of lines", () => {
  it("show headroom with what contributes most, and a gain planned from how loud and how far", async () => {
    const { user, press, fill, saved } = await openDemo("cues/levels", "tidewrack-nine");
    await user.click(await screen.findByRole("option", { name: /^Ilse: / }));
    const most = within(await screen.findByRole("region", { name: "What contributes most to Ilse" }));
    expect(most.getAllByRole("listitem")[0]?.textContent).toContain("Lead voice");
    const gains = screen.getByRole("grid", { name: "Gain of each line" });
    await user.click(within(gains).getByRole("gridcell", { name: "Fiddle" }));
    const panel = () => screen.getByRole("region", { name: "Line" });
    const loudness = within(panel()).getByRole("textbox", { name: "Loudness at 1 m, dB SPL" });
    expect(loudness.getAttribute("placeholder")).toBe("82, as usual");
    // The worked figure: what is typed here is judged at once.
    await fill(loudness, "114");
    await press("Enter");
    await fill(within(panel()).getByRole("textbox", { name: "Microphone at, m" }), "1");
    await press("Enter");
    await waitFor(() =>
      expect(panel().textContent).toContain("114 dB SPL at the microphone, −22.22 dBu at the socket."),
    );
    await fill(within(panel()).getByRole("textbox", { name: "Gain, dB" }), "50");
    await press("Enter");
    await screen.findByRole("button", { name: "2 problems" });
    expect(Object.values((await saved()).lines).find(({ source }) => source === "Fiddle")).toMatchObject({
      loudnessDb: 114,
      distanceM: 1,
      gainDb: 50,
    });
  });
});
