import { KeepVersionRequest } from "@/contracts/requests";
import { parse } from "@/contracts/validate";
import { json, readJson, route } from "@/server/http/route";
import { accept } from "@/server/services/accept";
import { keepVersion } from "@/server/services/life";

export const POST = route(async ({ db, params, request }) =>
  json(await keepVersion(db, params.id ?? "", accept(parse(KeepVersionRequest, await readJson(request)))), {
    status: 201,
  }),
);
