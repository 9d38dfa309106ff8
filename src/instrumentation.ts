export const register = async (): Promise<void> => {
  if (process.env.NEXT_RUNTIME === "nodejs") await (await import("./instrumentation-node")).boot();
};
