"use client";

import { useDebouncedValue } from "@mantine/hooks";
import type { SpotlightActionData } from "@mantine/spotlight";
import { useEffect, useState } from "react";
import type { RigList, SessionSummary, TemplateSummary } from "@/contracts/answers";
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

interface Found {
  readonly templates: readonly TemplateSummary[];
  readonly sessions: readonly SessionSummary[];
}

/** Templates and sessions that a text is found in, beyond those that the page shows. */
const useFound = (query: string): Found => {
  const [asked] = useDebouncedValue(query.trim(), 150);
  const [found, setFound] = useState<Found>({ templates: [], sessions: [] });
  useEffect(() => {
    if (!asked) return;
    const abort = new AbortController();
    Promise.all([api.listTemplates({ query: asked }, abort.signal), api.listSessions({ query: asked }, abort.signal)])
      .then(([{ templates }, { sessions }]) => setFound({ templates, sessions }))
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
  const all = [...new Map([...templates, ...found.templates].map((template) => [template.id, template])).values()];
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
    ...found.sessions.map((session) => ({
      id: session.id,
      label: session.name,
      description: `Session of ${session.from?.name || "a template that is gone"}`,
      onClick: () => go(`/templates/${session.id}/inputs`),
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
