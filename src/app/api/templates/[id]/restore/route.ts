import { jsonText, route } from "@/server/http/route";
import { bringBackTemplate } from "@/server/services/library";
import { templateStore } from "@/server/services/revisions";

export const POST = route(async ({ db, params }) => {
  await bringBackTemplate(db, params.id ?? "");
  return jsonText(await templateStore.answer(db, params.id ?? ""));
});
