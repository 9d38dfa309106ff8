import { notFound } from "next/navigation";
import { database } from "@/server/db/database";
import { headOf } from "@/server/services/heads";
import { rigPage } from "@/server/services/pages";
import { Unreadable } from "@/ui/frame/unreadable";
import { RigOpened } from "@/ui/rig/rig-opened";
import { RigScreen } from "@/ui/rig/rig-screen";

interface Props {
  readonly params: Promise<{ readonly id: string }>;
  readonly searchParams: Promise<{ readonly template?: string | string[] }>;
}

export const generateMetadata = async ({ params }: Pick<Props, "params">) => ({
  title: (await headOf(database(), "rig", (await params).id))?.name ?? "No such rig",
});

export default async function RigPage({ params, searchParams }: Props) {
  const { id } = await params;
  const { template } = await searchParams;
  const page = await rigPage(database(), id);
  if (!page) notFound();
  if (page.unreadable) return <Unreadable what="rig" id={id} name={page.name} why={page.unreadable} />;
  const from = typeof template === "string" ? await headOf(database(), "template", template) : null;
  return (
    <RigOpened key={id} id={id} name={page.name} initial={page.initial}>
      <RigScreen from={from ? { href: `/templates/${template}/inputs`, name: from.name } : undefined} />
    </RigOpened>
  );
}
