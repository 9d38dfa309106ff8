"use client";

import { Button } from "@mantine/core";

export default function ErrorPage({ reset }: { readonly reset: () => void }) {
  return (
    <main style={{ padding: 48, maxWidth: 560 }}>
      <h1>This page could not be opened</h1>
      <p>The server or its database did not answer. Nothing is lost; try again in a moment.</p>
      <Button onClick={reset}>Try again</Button>
    </main>
  );
}
