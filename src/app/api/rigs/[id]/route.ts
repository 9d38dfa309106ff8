import { json, route } from "@/server/http/route";
import { deleteRig, loadRig } from "@/server/services/rigs";

export const GET = route(async ({ db, params }) => json(await loadRig(db, params.id ?? "")));

export const DELETE = route(async ({ db, params }) => {
  await deleteRig(db, params.id ?? "");
  return new Response(null, { status: 204 });
});
