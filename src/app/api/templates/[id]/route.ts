import { DeleteQuery } from "@/contracts/requests";
import { stateRoute } from "@/server/http/document-routes";
import { readQuery, route } from "@/server/http/route";
import { deleteTemplate } from "@/server/services/library";
import { templateStore } from "@/server/services/templates";

export const GET = stateRoute(templateStore);

export const DELETE = route(async ({ db, params, url }) => {
  await deleteTemplate(db, params.id ?? "", readQuery(DeleteQuery, url).by);
  return new Response(null, { status: 204 });
});
