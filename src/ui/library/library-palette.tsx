"use client";

import { useDebouncedValue } from "@mantine/hooks";
import type { SpotlightActionData } from "@mantine/spotlight";
import { useEffect, useState } from "react";
import type { RigList, TemplateSummary } from "@/contracts/answers";
import type { Acts } from "../acts/act-model";
import { inPalette } from "../frame/in-palette";
import { Palette } from "../frame/palette";
import { PaletteButton } from "../frame/palette-button";
import { api } from "../shared/api";
import { useGo } from "../shared/going";

interface LibraryPaletteProps {
  readonly templates: readonly TemplateSummary[];
  readonly acts: Acts;
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

export const LibraryPalette = ({ templates, rigs, acts }: LibraryPaletteProps) => {
  const go = useGo();
  const [query, setQuery] = useState("");
  const found = useFound(query);
  const all = [...new Map([...templates, ...found].map((template) => [template.id, template])).values()];
  const does: SpotlightActionData[] = [
    ...inPalette(acts()),
    { id: "studio", label: "Go to rooms, people and defaults", onClick: () => go("/studio") },
  ];
  const finds = [
    ...all.map((template) => ({
      id: template.id as string,
      label: template.name,
      description: "Template",
      onClick: () => go(`/templates/${template.id}/inputs`),
    })),
    ...rigs.map((rig) => ({
      id: rig.id as string,
      label: rig.name,
      description: "Rig",
      onClick: () => go(`/rigs/${rig.id}`),
    })),
  ];
  return (
    <>
      <PaletteButton />
      <Palette does={does} finds={finds} onQuery={setQuery} />
    </>
  );
};
