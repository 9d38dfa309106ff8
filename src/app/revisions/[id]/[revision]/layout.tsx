import { notFound } from "next/navigation";
import type { ReactNode } from "react";
import { database } from "@/server/db/database";
import { revisionPage } from "@/server/services/life";
import { rigsBeside } from "@/server/services/pages";
import { loadStudio } from "@/server/services/studio";
import { DeskFrame } from "@/ui/frame/desk-frame";
import { DeskProvider } from "@/ui/state/desk-context";

interface Props {
  readonly params: Promise<{ readonly id: string; readonly revision: string }>;
  readonly children: ReactNode;
}

export default async function RevisionLayout({ params, children }: Props) {
  const { id, revision } = await params;
  const state = await revisionPage(database(), id, revision);
  if (!state) notFound();
  const [rigs, studio] = await Promise.all([rigsBeside(database(), id), loadStudio(database())]);
  const { head, version, ...opened } = state;
  return (
    <DeskProvider
      key={`${id} ${revision}`}
      initial={{ ...opened, rigs, studio: studio.document, reading: { revision: state.revision, head, version } }}
    >
      <DeskFrame>{children}</DeskFrame>
    </DeskProvider>
  );
}
