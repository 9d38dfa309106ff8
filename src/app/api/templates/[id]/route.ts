import { stateRoute } from "@/server/http/document-routes";
import { route } from "@/server/http/route";
import { deleteTemplate } from "@/server/services/library";
import { templateStore } from "@/server/services/templates";

export const GET = stateRoute(templateStore);

export const DELETE = route(async ({ db, params }) => {
  await deleteTemplate(db, params.id ?? "");
  return new Response(null, { status: 204 });
});
