export const register = async (): Promise<void> => {
  if (process.env.NEXT_RUNTIME === "nodejs") await (await import("./instrumentation-node")).boot();
};

export const onRequestError = async (error: unknown): Promise<void> => {
  if (process.env.NEXT_RUNTIME === "nodejs") (await import("./instrumentation-node")).noteAway(error);
};
