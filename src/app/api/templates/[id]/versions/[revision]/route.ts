import { numbered, route } from "@/server/http/route";
import { dropVersion } from "@/server/services/life";

export const DELETE = route(async ({ db, params }) => {
  await dropVersion(db, params.id ?? "", numbered(params.revision));
  return new Response(null, { status: 204 });
});
