import { jsonText, numbered, route } from "@/server/http/route";
import { revisionText } from "@/server/services/life";

export const GET = route(async ({ db, params, signal }) =>
  jsonText(await revisionText(db, params.id ?? "", numbered(params.revision), signal)),
);
