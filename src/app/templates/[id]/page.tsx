import { redirect } from "next/navigation";

export default async function TemplatePage({ params }: { readonly params: Promise<{ readonly id: string }> }) {
  redirect(`/templates/${(await params).id}/inputs`);
}
