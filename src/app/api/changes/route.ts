import { eventStream } from "@/server/http/event-stream";

export const dynamic = "force-dynamic";

export const GET = (request: Request): Response => eventStream(request.signal);
