import { cleanup, configure } from "@testing-library/react";
import { type ComponentType, createElement, type MouseEvent, type ReactNode, useSyncExternalStore } from "react";
import { afterEach, beforeEach, vi } from "vitest";

/** Where the window is, which Next would keep. */
let path = "/";
const watchers = new Set<() => void>();
const watch = (watcher: () => void) => {
  watchers.add(watcher);
  return () => watchers.delete(watcher);
};
export const goTo = (to: string): void => {
  path = to;
  for (const tell of watchers) tell();
};
export const usePath = (): string => useSyncExternalStore(watch, () => path);

vi.mock("next/navigation", () => ({
  usePathname: () => usePath().replace(/[?#].*/, ""),
  useRouter: () => ({ push: goTo, replace: goTo, refresh: () => {} }),
}));
vi.mock("next/link", () => ({
  default: ({
    href,
    prefetch: _,
    onNavigate,
    ...props
  }: {
    readonly href: string;
    readonly prefetch?: boolean;
    readonly onNavigate?: (event: { readonly preventDefault: () => void }) => void;
  }) =>
    createElement("a", {
      href,
      onClick: (event: MouseEvent) => {
        event.preventDefault();
        onNavigate?.(event);
        goTo(href);
      },
      ...props,
    }),
}));
vi.mock("next/dynamic", async () => {
  const { lazy, Suspense } = await import("react");
  return {
    default: (load: () => Promise<ComponentType>) => {
      const Later = lazy(async () => ({ default: await load() }));
      return (props: object) => createElement(Suspense, { fallback: null as ReactNode }, createElement(Later, props));
    },
  };
});

// Nothing is laid out here: all is as large as the window, so that lists have rows in sight.
const size = (value: number) => ({ configurable: true, get: () => value });
Object.defineProperties(HTMLElement.prototype, {
  offsetWidth: size(1280),
  offsetHeight: size(800),
  clientWidth: size(1280),
  clientHeight: size(800),
});
class WindowSized implements ResizeObserver {
  constructor(private readonly told: ResizeObserverCallback) {}
  observe(target: Element): void {
    const contentRect = { x: 0, y: 0, top: 0, left: 0, right: 1280, bottom: 800, width: 1280, height: 800 };
    const box = [{ inlineSize: 1280, blockSize: 800 }];
    const entry = { target, contentRect, borderBoxSize: box, contentBoxSize: box, devicePixelContentBoxSize: box };
    setTimeout(() => this.told([entry as unknown as ResizeObserverEntry], this));
  }
  unobserve(): void {}
  disconnect(): void {}
}
HTMLElement.prototype.scrollIntoView = () => {};
// Told by its name in what is printed, and not with all that hangs on it.
Object.defineProperty(Element.prototype, Symbol.for("nodejs.util.inspect.custom"), {
  configurable: true,
  value(this: Element) {
    return `<${this.tagName.toLowerCase()} ${this.id || this.className}>`;
  },
});
// No streams and no threads: the checks look in this one.
Object.assign(globalThis, { EventSource: undefined, Worker: undefined, ResizeObserver: WindowSized });

// Hidden ones are not asked for: whether something is hidden is looked up for every element and all around it.
configure({ defaultHidden: true, asyncUtilTimeout: 8000, getElementError: (message) => new Error(message ?? "") });

beforeEach(() => {
  localStorage.clear();
  sessionStorage.clear();
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});
