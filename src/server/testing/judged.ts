import type { TemplateList } from "@/contracts/answers";
import type { ListQuery } from "@/contracts/requests";
import type { Queryable } from "../db/database";
import { listTemplates } from "../services/library";

/** The library when all of the page is judged, as whoever looks for a while sees it. */
export const judgedList = async (db: Queryable, query: ListQuery): Promise<TemplateList> => {
  for (;;) {
    const list = await listTemplates(db, query);
    if (
      list.templates.every(
        ({ problems, unjudged, unreadable }) => problems !== null || unjudged !== null || unreadable !== null,
      )
    )
      return list;
    await new Promise((resolve) => setTimeout(resolve, 30));
  }
};
