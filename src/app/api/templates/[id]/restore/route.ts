import { jsonText, route } from "@/server/http/route";
import { bringBackTemplate } from "@/server/services/library";
import { templateStore } from "@/server/services/templates";

export const POST = route(async ({ db, params }) => {
  const rig = await bringBackTemplate(db, params.id ?? "");
  const state = await templateStore.answer(db, params.id ?? "");
  return jsonText(`{"rigBroughtBack":${JSON.stringify(rig)},${state.slice(1)}`);
});
