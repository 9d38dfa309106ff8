import { DeleteQuery } from "@/contracts/requests";
import { stateRoute } from "@/server/http/document-routes";
import { readQuery, route } from "@/server/http/route";
import { deleteRig, rigStore } from "@/server/services/rigs";

export const GET = stateRoute(rigStore);

export const DELETE = route(async ({ db, params, url }) => {
  await deleteRig(db, params.id ?? "", readQuery(DeleteQuery, url).by);
  return new Response(null, { status: 204 });
});
