import { ChainsQuery } from "@/contracts/requests";
import { jsonText, readQuery, route } from "@/server/http/route";
import { templateChains } from "@/server/services/chains";

export const GET = route(async ({ db, params, url, signal }) =>
  jsonText(await templateChains(db, params.id ?? "", { ...readQuery(ChainsQuery, url), signal })),
);
