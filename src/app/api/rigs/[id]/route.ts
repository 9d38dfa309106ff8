import { stateRoute } from "@/server/http/document-routes";
import { route } from "@/server/http/route";
import { deleteRig, rigStore } from "@/server/services/rigs";

export const GET = stateRoute(rigStore);

export const DELETE = route(async ({ db, params }) => {
  await deleteRig(db, params.id ?? "");
  return new Response(null, { status: 204 });
});
