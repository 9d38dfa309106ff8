"use client";

import { Button } from "@mantine/core";
import { useEffect, useState } from "react";
import { counted } from "@/core/units/counted";
import { PendingKeeper } from "@/ui/state/pending-keeper";

/** How often it is looked whether the server and its database are back. */
const PAUSE_MS = 1500;

const isBack = async (): Promise<boolean> => {
  try {
    return (await fetch("/api/health", { cache: "no-store" })).ok;
  } catch {
    return false;
  }
};

export default function ErrorPage() {
  const [waiting, setWaiting] = useState(0);
  useEffect(() => {
    setWaiting(PendingKeeper.countWaiting());
    const timer = setInterval(() => void isBack().then((back) => back && window.location.reload()), PAUSE_MS);
    return () => clearInterval(timer);
  }, []);
  return (
    <main style={{ padding: 48, maxWidth: 560 }}>
      <h1>This page could not be opened</h1>
      <p>The server or its database did not answer. Nothing is lost; the page opens by itself when they are back.</p>
      {waiting > 0 && (
        <p>
          {counted(waiting, "edit")} of this browser {waiting === 1 ? "is" : "are"} kept here, and will be saved then.
        </p>
      )}
      <Button onClick={() => window.location.reload()}>Try now</Button>
    </main>
  );
}
