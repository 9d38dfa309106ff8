"use client";

import { useDebouncedValue } from "@mantine/hooks";
import type { SpotlightActionData } from "@mantine/spotlight";
import { useRouter } from "next/navigation";
import { useEffect, useState } from "react";
import type { RigList, TemplateSummary } from "@/contracts/answers";
import { Palette } from "../frame/palette";
import { PaletteButton } from "../frame/palette-button";
import { api } from "../shared/api";

interface LibraryPaletteProps {
  readonly templates: readonly TemplateSummary[];
  readonly onNew: () => void;
  readonly onImport: () => void;
  readonly onPaste: () => void;
  readonly rigs: RigList["rigs"];
}

/** Templates of a name, beyond those that the page shows. */
const useFound = (query: string): readonly TemplateSummary[] => {
  const [asked] = useDebouncedValue(query.trim(), 150);
  const [found, setFound] = useState<readonly TemplateSummary[]>([]);
  useEffect(() => {
    if (!asked) return;
    const abort = new AbortController();
    api
      .listTemplates({ query: asked }, abort.signal)
      .then((list) => setFound(list.templates))
      // The window says by itself when the server is away; what is shown can be found all the same.
      .catch(() => {});
    return () => abort.abort();
  }, [asked]);
  return found;
};

export const LibraryPalette = ({ templates, rigs, onNew, onImport, onPaste }: LibraryPaletteProps) => {
  const router = useRouter();
  const [query, setQuery] = useState("");
  const found = useFound(query);
  const all = [...new Map([...templates, ...found].map((template) => [template.id, template])).values()];
  const does: SpotlightActionData[] = [
    { id: "new", label: "New template", rightSection: <kbd>Alt N</kbd>, onClick: onNew },
    { id: "import", label: "Template from an input list", rightSection: <kbd>Alt I</kbd>, onClick: onImport },
    { id: "paste", label: "Template from pasted text", onClick: onPaste },
    { id: "studio", label: "Go to rooms, people and defaults", onClick: () => router.push("/studio") },
  ];
  const finds = [
    ...all.map((template) => ({
      id: template.id as string,
      label: template.name,
      description: "Template",
      onClick: () => router.push(`/templates/${template.id}/inputs`),
    })),
    ...rigs.map((rig) => ({
      id: rig.id as string,
      label: rig.name,
      description: "Rig",
      onClick: () => router.push(`/rigs/${rig.id}`),
    })),
  ];
  return (
    <>
      <PaletteButton />
      <Palette does={does} finds={finds} onQuery={setQuery} />
    </>
  );
};
