import { DelayQuery } from "@/contracts/requests";
import { jsonText, readQuery, route } from "@/server/http/route";
import { templateDelay } from "@/server/services/library";

export const GET = route(async ({ db, params, url, signal }) =>
  jsonText(
    await templateDelay(db, params.id ?? "", {
      ...readQuery(DelayQuery, url, { numbers: ["rateHz", "buffer"] }),
      signal,
    }),
  ),
);
