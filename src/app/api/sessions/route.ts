import { SessionsQuery, StartSessionRequest } from "@/contracts/requests";
import { parse } from "@/contracts/validate";
import { json, readJson, readQuery, route } from "@/server/http/route";
import { accept } from "@/server/services/accept";
import { listSessions, startSession } from "@/server/services/sessions";

export const GET = route(async ({ db, url }) => json(await listSessions(db, readQuery(SessionsQuery, url))));

export const POST = route(async ({ db, request }) => {
  const made = await startSession(db, accept(parse(StartSessionRequest, await readJson(request))));
  return json(made, { status: 201, headers: { location: `/api/templates/${made.document.id}` } });
});
