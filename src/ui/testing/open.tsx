import { act, render, screen, waitFor, within } from "@testing-library/react";
import userEvent, { PointerEventsCheckLevel, type UserEvent } from "@testing-library/user-event";
import { expect, vi } from "vitest";
import { DEMO_RIGS } from "@/core/demo/rigs";
import { demoStudio } from "@/core/demo/studio";
import { demoTemplates } from "@/core/demo/templates";
import type { ChannelId } from "@/core/model/ids";
import type { Channel } from "@/core/model/tables/channels";
import { emptyTemplate, type Template } from "@/core/model/template";
import { ChainScreen } from "../chain/chain-screen";
import { CuesScreen } from "../cues/cues-screen";
import { LevelsScreen } from "../cues/levels-screen";
import { PassesScreen } from "../cues/passes-screen";
import { DelayScreen } from "../delay/delay-screen";
import { FlowScreen } from "../flow/flow-screen";
import { DeskFrame } from "../frame/desk-frame";
import { InputListScreen } from "../inputs/input-list-screen";
import { DeskProvider } from "../state/desk-context";
import { FakeService } from "../state/testing/fake-service";
import { Providers } from "../theme/providers";
import { goTo, usePath } from "./light-dom";

const demo = new Map(demoTemplates().map((doc) => [doc.id as string, doc]));

/** A template of the demo. */
export const demoTemplate = (id: string): Template => {
  const doc = demo.get(id);
  if (!doc) throw new Error(`expected a template of the demo, got ${id}`);
  return doc;
};

export interface Desktop {
  readonly user: UserEvent;
  readonly service: FakeService;
  /** Presses chords one after the other: "Alt+j", "Shift+ArrowDown". */
  readonly press: (...chords: readonly string[]) => Promise<void>;
  /** Types what it says, where the keys are. */
  readonly type: (text: string) => Promise<void>;
  /** Puts a text in a field in place of what is there. */
  readonly fill: (field: HTMLElement, text: string) => Promise<void>;
  /** Chooses one of what a list offers. */
  readonly choose: (field: string, option: string | RegExp) => Promise<void>;
  /** The document as it was saved, once all is. */
  readonly saved: () => Promise<Template>;
}

const literally = (text: string): string => text.replace(/[{[]/g, "$&$&");

/** Keys that are known by where they lie. */
const CODES: Readonly<Record<string, string>> = { ",": "[Comma]", ".": "[Period]" };

/** "Alt+Shift+r" as a hand presses it. */
const chord = (keys: string): string => {
  const parts = keys.split("+");
  const last = parts.pop() || "+";
  const key = CODES[last] ?? (last.length > 1 ? `{${last}}` : literally(last));
  return `${parts.map((part) => `{${part}>}`).join("")}${key}${parts
    .reverse()
    .map((part) => `{/${part}}`)
    .join("")}`;
};

const handsOf = (service: FakeService): Desktop => {
  const user = userEvent.setup({ delay: null, pointerEventsCheck: PointerEventsCheckLevel.Never });
  return {
    user,
    service,
    press: async (...chords) => {
      for (const keys of chords) await user.keyboard(chord(keys));
    },
    type: (text) => user.keyboard(literally(text)),
    fill: async (field, text) => {
      await user.clear(field);
      await user.type(field, literally(text));
    },
    choose: async (field, option) => {
      await user.click(screen.getByRole("combobox", { name: field }));
      await user.click(await screen.findByRole("option", { name: option }));
    },
    saved: async () => {
      await waitFor(() => screen.getByText(/^Saved · revision \d+$/));
      return service.doc as Template;
    },
  };
};

/** The screens of a template, by what stands behind it in the address. */
const ScreenAt = () => {
  const [view = "", id = ""] = usePath().split("/").slice(3);
  if (view === "flow" && id) return <ChainScreen key={id} channelId={id as ChannelId} />;
  if (view === "cues" && id === "levels") return <LevelsScreen />;
  if (view === "cues" && id === "passes") return <PassesScreen />;
  const Screen = SCREENS[view as keyof typeof SCREENS];
  return <Screen />;
};
const SCREENS = { inputs: InputListScreen, flow: FlowScreen, cues: CuesScreen, delay: DelayScreen };

/** A screen of a template, on a service that is a stand-in. */
export const openTemplate = async (view: string, doc: Template): Promise<Desktop> => {
  const service = new FakeService(doc);
  vi.stubGlobal("fetch", service.fetch);
  goTo(`/templates/${doc.id}/${view}`);
  const initial = { document: doc, revision: 1, savedAt: service.savedAt(1), rigs: DEMO_RIGS, studio: demoStudio };
  render(
    <Providers nonce="" ownColours={[]}>
      <DeskProvider initial={initial}>
        <DeskFrame>
          <ScreenAt />
        </DeskFrame>
      </DeskProvider>
    </Providers>,
  );
  await screen.findByRole("heading", { level: 1 });
  return handsOf(service);
};

/** One of the demo, or one with nothing in it. */
export const openDemo = (view: string, id: string): Promise<Desktop> => openTemplate(view, demoTemplate(id));
export const openEmpty = (view: string, rigId = "wheelhouse-cart"): Promise<Desktop> =>
  openTemplate(view, emptyTemplate({ id: "evening" as never, name: "Evening", kind: "band", rigId: rigId as never }));

/** Something by how its label begins: what asks for the names of hundreds of cells takes long. */
export const labelled = (begins: string): HTMLElement =>
  document.querySelector<HTMLElement>(`[aria-label^="${begins}"]`) ?? expect.unreachable(`nothing is ${begins}`);
export const labelOf = (begins: string): string => labelled(begins).getAttribute("aria-label") ?? "";
/** That a label reads so, once it does. */
export const isLabelled = (begins: string, label: RegExp | string): Promise<void> =>
  waitFor(() =>
    typeof label === "string" ? expect(labelOf(begins)).toBe(label) : expect(labelOf(begins)).toMatch(label),
  );
export const noneLabelled = (begins: string): Promise<void> =>
  waitFor(() => expect(document.querySelector(`[aria-label^="${begins}"]`) === null).toBe(true));
export const inspector = (): Promise<HTMLElement> => screen.findByRole("complementary", { name: "Inspector" });

/** The button that takes the last act back, which says what it was. */
export const undoOf = (name: string | RegExp): Promise<HTMLElement> =>
  screen.findByRole("button", { name: typeof name === "string" ? `Undo: ${name}` : name });
export const button = (name: string | RegExp): HTMLElement => screen.getByRole("button", { name });
export const dialog = (name?: string | RegExp): Promise<HTMLElement> =>
  screen.findByRole("dialog", name ? { name } : undefined);
/** That the keys go there. */
export const hasKeys = (element: Element | null): void => expect(document.activeElement === element).toBe(true);
/** Waits until the first field of a dialog has the keys. */
export const dialogHasKeys = (): Promise<void> =>
  waitFor(() => hasKeys(screen.getByRole("dialog").querySelector("input")));
/** Once it shows, somewhere. */
export const says = async (text: string | RegExp): Promise<void> => {
  await screen.findAllByText(text);
};

export const grid = (): HTMLElement => screen.getByRole("grid");

/** The row in which something reads so. */
export const rowOrNone = (name: string): HTMLElement | undefined =>
  within(grid())
    .getAllByRole("row")
    .find((one) => within(one).queryAllByText(name, { exact: true }).length);
export const row = (name: string): HTMLElement => {
  const found = rowOrNone(name);
  if (!found) throw new Error(`expected a row with ${name}`);
  return found;
};

/** That a cell reads so, once it does. */
export const reads = (name: string, column: number, text: string | RegExp): Promise<void> =>
  waitFor(() =>
    typeof text === "string"
      ? expect(cell(name, column).textContent).toBe(text)
      : expect(cell(name, column).textContent).toMatch(text),
  );

export const cell = (name: string, column: number): HTMLElement => {
  const found = row(name).querySelector<HTMLElement>(`[aria-colindex="${column}"]`);
  if (!found) throw new Error(`expected a cell of ${name} in column ${column}`);
  return found;
};

export const named = (doc: Template, name: string): Channel => {
  const found = Object.values(doc.channels).find((channel) => channel.name === name);
  if (!found) throw new Error(`expected a channel called ${name}`);
  return found;
};

/** Pastes a text as the browser would hand it over. */
export const paste = async (text: string): Promise<void> => {
  const event = new Event("paste", { bubbles: true, cancelable: true });
  Object.assign(event, { clipboardData: { types: ["text/plain"], getData: () => text } });
  await act(async () => void (document.activeElement ?? document.body).dispatchEvent(event));
};

/** What a copy would put on the clipboard. */
export const copied = async (): Promise<string> => {
  let text = "";
  const event = new Event("copy", { bubbles: true, cancelable: true });
  Object.assign(event, {
    clipboardData: {
      setData: (type: string, data: string) => {
        if (type === "text/plain") text = data;
      },
    },
  });
  await act(async () => void (document.activeElement ?? document.body).dispatchEvent(event));
  return text;
};
