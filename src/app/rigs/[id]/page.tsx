import { notFound } from "next/navigation";
import { database } from "@/server/db/database";
import { Failure } from "@/server/services/failure";
import { loadTemplate } from "@/server/services/revisions";
import { loadRig } from "@/server/services/rigs";
import { RigProvider } from "@/ui/rig/rig-context";
import { RigScreen } from "@/ui/rig/rig-screen";

interface Props {
  readonly params: Promise<{ readonly id: string }>;
  readonly searchParams: Promise<{ readonly template?: string }>;
}

const orNotFound = async <T,>(promise: Promise<T>): Promise<T> => {
  try {
    return await promise;
  } catch (error) {
    if (error instanceof Failure && error.status === 404) notFound();
    throw error;
  }
};

export const generateMetadata = async ({ params }: Pick<Props, "params">) => ({ title: (await orNotFound(loadRig(database(), (await params).id))).document.name });

export default async function RigPage({ params, searchParams }: Props) {
  const { id } = await params;
  const { template } = await searchParams;
  const initial = await orNotFound(loadRig(database(), id));
  const from = template ? (await orNotFound(loadTemplate(database(), template))).document : undefined;
  return (
    <RigProvider key={id} initial={initial}>
      <RigScreen from={from && { href: `/templates/${from.id}/inputs`, name: from.name }} />
    </RigProvider>
  );
}
