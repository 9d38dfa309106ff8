"use client";

import type { SpotlightActionData } from "@mantine/spotlight";
import { useRouter } from "next/navigation";
import type { RigList, TemplateSummary } from "@/contracts/answers";
import { Palette } from "../frame/palette";
import { PaletteButton } from "../frame/palette-button";

interface LibraryPaletteProps {
  readonly templates: readonly TemplateSummary[];
  readonly onNew: () => void;
  readonly onImport: () => void;
  readonly onPaste: () => void;
  readonly rigs: RigList["rigs"];
}

export const LibraryPalette = ({ templates, rigs, onNew, onImport, onPaste }: LibraryPaletteProps) => {
  const router = useRouter();
  const does: SpotlightActionData[] = [
    { id: "new", label: "New template", rightSection: <kbd>Alt N</kbd>, onClick: onNew },
    { id: "import", label: "Template from an input list", rightSection: <kbd>Alt I</kbd>, onClick: onImport },
    { id: "paste", label: "Template from pasted text", onClick: onPaste },
    { id: "studio", label: "Go to rooms, people and defaults", onClick: () => router.push("/studio") },
  ];
  const finds = [
    ...templates.map((template) => ({ id: template.id as string, label: template.name, description: "Template", onClick: () => router.push(`/templates/${template.id}/inputs`) })),
    ...rigs.map((rig) => ({ id: rig.id as string, label: rig.name, description: "Rig", onClick: () => router.push(`/rigs/${rig.id}`) })),
  ];
  return (
    <>
      <PaletteButton />
      <Palette does={does} finds={finds} />
    </>
  );
};
