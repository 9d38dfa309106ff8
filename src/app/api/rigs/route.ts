import { CreateRigRequest } from "@/contracts/requests";
import { parse } from "@/contracts/validate";
import { json, readJson, route } from "@/server/http/route";
import { accept } from "@/server/services/accept";
import { createRig, listRigs } from "@/server/services/rigs";

export const GET = route(async ({ db }) => json(await listRigs(db)));

export const POST = route(async ({ db, request }) => {
  const made = await createRig(db, accept(parse(CreateRigRequest, await readJson(request))));
  return json(made, { status: 201, headers: { location: `/api/rigs/${made.document.id}` } });
});
