import { commandsRoute } from "@/server/http/document-routes";
import { templateStore } from "@/server/services/revisions";

export const POST = commandsRoute(templateStore);
