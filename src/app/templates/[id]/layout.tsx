import { notFound } from "next/navigation";
import type { ReactNode } from "react";
import { database } from "@/server/db/database";
import { headOf } from "@/server/services/heads";
import { rigsBeside, templatePage } from "@/server/services/pages";
import { loadStudio } from "@/server/services/studio";
import { DeskFrame } from "@/ui/frame/desk-frame";
import { Unreadable } from "@/ui/frame/unreadable";
import { DeskOpened } from "@/ui/state/desk-opened";

interface Props {
  readonly params: Promise<{ readonly id: string }>;
  readonly children: ReactNode;
}

export const generateMetadata = async ({ params }: Pick<Props, "params">) => ({
  title: (await headOf(database(), "template", (await params).id))?.name ?? "No such template",
});

export default async function TemplateLayout({ params, children }: Props) {
  const { id } = await params;
  const page = await templatePage(database(), id);
  if (!page) notFound();
  if (page.unreadable) return <Unreadable what="template" id={id} name={page.name} why={page.unreadable} />;
  const [rigs, studio] = await Promise.all([rigsBeside(database(), id), loadStudio(database())]);
  return (
    <DeskOpened key={id} id={id} name={page.name} initial={page.initial} rigs={rigs} studio={studio.document}>
      <DeskFrame>{children}</DeskFrame>
    </DeskOpened>
  );
}
