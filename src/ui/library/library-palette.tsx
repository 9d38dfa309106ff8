"use client";

import type { SpotlightActionData } from "@mantine/spotlight";
import { useRouter } from "next/navigation";
import type { TemplateSummary } from "@/contracts/answers";
import { Palette } from "../frame/palette";
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
      <Palette does={does} finds={finds} />
    </>
  );
};
