import { json, route } from "@/server/http/route";
import { bringBackTemplate } from "@/server/services/library";
import { loadTemplate } from "@/server/services/revisions";

export const POST = route(async ({ db, params }) => {
  await bringBackTemplate(db, params.id ?? "");
  return json(await loadTemplate(db, params.id ?? ""));
});
