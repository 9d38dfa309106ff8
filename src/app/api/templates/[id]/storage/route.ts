import { StorageQuery } from "@/contracts/requests";
import { jsonText, readQuery, route } from "@/server/http/route";
import { templateStorage } from "@/server/services/library";

export const GET = route(async ({ db, params, url, signal }) =>
  jsonText(
    await templateStorage(db, params.id ?? "", {
      ...readQuery(StorageQuery, url, { numbers: ["hours", "takes"] }),
      signal,
    }),
  ),
);
