import { CommandsRequest } from "@/contracts/requests";
import { parse, parseCommands } from "@/contracts/validate";
import { accept, json, readJson, route } from "@/server/http/route";
import { saveCommands } from "@/server/services/revisions";

export const POST = route(async ({ db, request, params }) => {
  const { base, batch, commands } = accept(parse(CommandsRequest, await readJson(request)));
  return json(await saveCommands(db, params.id ?? "", { base, batch, commands: accept(parseCommands(commands)) }));
});
