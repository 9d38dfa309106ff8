import { json, route } from "@/server/http/route";
import { deleteTemplate } from "@/server/services/library";
import { loadTemplate } from "@/server/services/revisions";

export const GET = route(async ({ db, params }) => json(await loadTemplate(db, params.id ?? "")));

export const DELETE = route(async ({ db, params }) => {
  await deleteTemplate(db, params.id ?? "");
  return new Response(null, { status: 204 });
});
