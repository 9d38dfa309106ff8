import { commandsRoute } from "@/server/http/document-routes";
import { templateStore } from "@/server/services/templates";

export const POST = commandsRoute(templateStore);
