import { render, screen, waitFor } from "@testing-library/react";
import "../testing/light-dom";
import { MantineProvider } from "@mantine/core";
import userEvent from "@testing-library/user-event";
import { useState } from "react";
import { describe, expect, it, vi } from "vitest";
import { Chooser, ManyChooser, newIn } from "./chooser";

const PROCESSORS = ["Gain", "High-pass", "Equaliser", "Compressor", "Reverb"].map((label) => ({ value: label, label }));
const asNew = (text: string) => `New bus “${text}”`;

const One = ({ onDo, fresh = false }: { readonly onDo: (value: string | null) => void; readonly fresh?: boolean }) => {
  const [value, setValue] = useState<string | null>(null);
  return (
    <MantineProvider>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          onDo(value);
        }}
      >
        <Chooser
          label="Processor"
          options={PROCESSORS}
          value={value}
          needed="Choose one."
          {...(fresh ? { asNew } : {})}
          onChange={setValue}
        />
        <button type="submit">Do it</button>
      </form>
    </MantineProvider>
  );
};
const Many = ({ onDo }: { readonly onDo: (value: readonly string[]) => void }) => {
  const [value, setValue] = useState<readonly string[]>([]);
  return (
    <MantineProvider>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          onDo(value);
        }}
      >
        <ManyChooser label="Processors" options={PROCESSORS} value={value} needed="Choose one." onChange={setValue} />
        <button type="submit">Do it</button>
      </form>
    </MantineProvider>
  );
};

const hands = () => userEvent.setup({ delay: null });
/** Found by the name of its label, or not at all. */
const field = () => screen.getByRole<HTMLInputElement>("combobox", { name: /^(Processor|Processors)$/ });

describe("one of several is chosen", () => {
  it.each([
    ["high-pass", "High-pass"],
    ["hpf", "High-pass"],
    ["low cut", "High-pass"],
    ["EQ", "Equaliser"],
    ["comp", "Compressor"],
    ["verb", "Reverb"],
    ["ga", "Gain"],
  ])("by %s: the first Enter takes what is marked, the next does the act", async (typed, meant) => {
    const onDo = vi.fn();
    render(<One onDo={onDo} />);
    const user = hands();
    await user.click(field());
    await user.keyboard(typed);
    await waitFor(() => expect(document.querySelector("[data-combobox-selected]")?.textContent).toBe(meant));
    await user.keyboard("{Enter}");
    expect(onDo).not.toHaveBeenCalled();
    expect(field().value).toBe(meant);
    await user.keyboard("{Enter}");
    expect(onDo).toHaveBeenCalledExactlyOnceWith(meant);
  });

  it("a wrong word does nothing, however often Enter is pressed, and is told; nothing at all neither", async () => {
    const onDo = vi.fn();
    render(<One onDo={onDo} />);
    const user = hands();
    await user.click(field());
    await user.keyboard("{Enter}");
    await waitFor(() => expect(document.body.textContent).toContain("Choose one."));
    await user.keyboard("xyzzy{Enter}{Enter}");
    await waitFor(() => expect(document.body.textContent).toContain("No match for “xyzzy”"));
    await user.click(screen.getByRole("button", { name: "Do it" }));
    expect(onDo).not.toHaveBeenCalled();
    expect(field().value).toBe("xyzzy");
  });

  it("a name that is not there is taken as new only by saying so, before what only has another word for it", async () => {
    const onDo = vi.fn();
    render(<One onDo={onDo} fresh />);
    const user = hands();
    await user.click(field());
    await user.keyboard("low cut");
    await waitFor(() =>
      expect(document.querySelector("[data-combobox-selected]")?.textContent).toBe("New bus “low cut”"),
    );
    await user.keyboard("{ArrowDown}");
    expect(document.querySelector("[data-combobox-selected]")?.textContent).toBe("High-pass");
    await user.keyboard("{ArrowUp}{Enter}{Enter}");
    expect(newIn(onDo.mock.calls[0]?.[0] ?? null)).toBe("low cut");
  });

  it("Escape closes the list and leaves what was typed", async () => {
    render(<One onDo={vi.fn()} />);
    const user = hands();
    await user.click(field());
    await user.keyboard("co{Escape}");
    expect([field().value, document.querySelector("[data-combobox-selected]")]).toEqual(["co", null]);
  });
});

describe("several are chosen", () => {
  it("each by Enter; Backspace takes the last out, and Enter in the empty field does the act", async () => {
    const onDo = vi.fn();
    render(<Many onDo={onDo} />);
    const user = hands();
    await user.click(field());
    await user.keyboard("hpf{Enter}comp{Enter}verb{Enter}");
    await user.keyboard("{Backspace}{Enter}");
    expect(onDo).toHaveBeenCalledExactlyOnceWith(["High-pass", "Compressor"]);
  });

  it("what matches nothing keeps the act from being done, and what is typed in full is taken on leaving", async () => {
    const onDo = vi.fn();
    render(<Many onDo={onDo} />);
    const user = hands();
    await user.click(field());
    await user.keyboard("xyzzy{Enter}{Enter}");
    expect(onDo).not.toHaveBeenCalled();
    await user.clear(field());
    await user.keyboard("Gain{Tab}");
    await user.click(screen.getByRole("button", { name: "Do it" }));
    expect(onDo).toHaveBeenCalledExactlyOnceWith(["Gain"]);
  });
});
