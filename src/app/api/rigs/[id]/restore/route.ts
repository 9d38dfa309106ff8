import { stateRoute } from "@/server/http/document-routes";
import { route } from "@/server/http/route";
import { bringRigBack } from "@/server/services/bin";
import { rigStore } from "@/server/services/rigs";

const state = stateRoute(rigStore);

export const POST = async (request: Request, context: { readonly params: Promise<Record<string, string>> }) => {
  const done = await route(async ({ db, params }) => {
    await bringRigBack(db, params.id ?? "");
    return new Response(null, { status: 204 });
  })(request, context);
  return done.status === 204 ? state(request, context) : done;
};
