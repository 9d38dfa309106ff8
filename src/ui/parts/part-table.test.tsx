import { MantineProvider } from "@mantine/core";
import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { expect, it, vi } from "vitest";
import { PartTable } from "./part-table";

const open = () => {
  const [onSet, onRefused] = [vi.fn(() => true), vi.fn()];
  render(
    <MantineProvider>
      <PartTable
        label="Boxes"
        rows={[
          { id: "a", name: "A" },
          { id: "b", name: "B" },
        ]}
        columns={[
          {
            id: "name",
            header: "Name",
            text: (row) => row.name,
            editor: { kind: "text" },
            write: (text) => (text === "bad" ? "No box is called so." : { name: text }),
          },
        ]}
        nameOf={(row) => row.id}
        onSet={onSet}
        onRefused={onRefused}
        empty=""
      />
    </MantineProvider>,
  );
  return { onSet, onRefused, field: (id: string) => screen.getByRole("textbox", { name: `Name of ${id}` }) };
};

it.each(["a", "b"])("what Enter keeps in row %s is kept once, and what it can't take is told once", async (id) => {
  const { onSet, onRefused, field } = open();
  const user = userEvent.setup({ delay: null });
  await user.click(field(id));
  await user.keyboard("Stand{Enter}");
  expect(onSet.mock.calls).toEqual([[[id], { name: "Stand" }]]);
  await user.click(field(id));
  await user.keyboard("{Control>}a{/Control}bad{Enter}");
  expect(onRefused.mock.calls).toEqual([["No box is called so."]]);
});

it("what is typed after Escape, in the same field, is kept when it is left", async () => {
  const { onSet, field } = open();
  const user = userEvent.setup({ delay: null });
  await user.click(field("a"));
  await user.keyboard("Wrong{Escape}Right{Tab}");
  expect(onSet.mock.calls).toEqual([[["a"], { name: expect.stringContaining("Right") }]]);
});
