import { notFound } from "next/navigation";
import type { ReactNode } from "react";
import { database } from "@/server/db/database";
import { Failure } from "@/server/services/failure";
import { loadTemplate } from "@/server/services/revisions";
import { allRigs } from "@/server/services/rigs";
import { loadStudio } from "@/server/services/studio";
import { DeskFrame } from "@/ui/frame/desk-frame";
import { DeskProvider } from "@/ui/state/desk-context";

interface Props {
  readonly params: Promise<{ readonly id: string }>;
  readonly children: ReactNode;
}

const load = async (id: string) => {
  try {
    return await loadTemplate(database(), id);
  } catch (error) {
    if (error instanceof Failure && error.status === 404) notFound();
    throw error;
  }
};

export const generateMetadata = async ({ params }: Pick<Props, "params">) => ({ title: (await load((await params).id)).document.name });

export default async function TemplateLayout({ params, children }: Props) {
  const { id } = await params;
  const [initial, rigs, studio] = await Promise.all([load(id), allRigs(database()), loadStudio(database())]);
  return (
    <DeskProvider key={id} initial={{ ...initial, rigs: rigs.map((state) => state.document), studio: studio.document }}>
      <DeskFrame>{children}</DeskFrame>
    </DeskProvider>
  );
}
