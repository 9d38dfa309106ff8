"use client";

import { Spotlight, type SpotlightActionData } from "@mantine/spotlight";
import { IconSearch } from "@tabler/icons-react";
import { useRouter } from "next/navigation";
import type { TemplateSummary } from "@/contracts/answers";
import { PaletteButton } from "../frame/palette-button";

interface LibraryPaletteProps {
  readonly templates: readonly TemplateSummary[];
  readonly onNew: () => void;
  readonly onImport: () => void;
}

export const LibraryPalette = ({ templates, onNew, onImport }: LibraryPaletteProps) => {
  const router = useRouter();
  const does: SpotlightActionData[] = [
    { id: "new", label: "New template", rightSection: <kbd>Alt N</kbd>, onClick: onNew },
    { id: "import", label: "Template from an input list", rightSection: <kbd>Alt I</kbd>, onClick: onImport },
  ];
  const finds = templates.map((template) => ({ id: template.id, label: template.name, description: "Template", onClick: () => router.push(`/templates/${template.id}/inputs`) }));
  return (
    <>
      <PaletteButton />
      <Spotlight
        actions={[
          { group: "Do", actions: does },
          { group: "Find", actions: finds },
        ]}
        shortcut="mod + K"
        nothingFound="Nothing here is called so."
        highlightQuery
        scrollable
        maxHeight={420}
        searchProps={{ leftSection: <IconSearch size={18} stroke={1.6} aria-hidden />, placeholder: "Do or find…", "aria-label": "Do or find" }}
      />
    </>
  );
};
