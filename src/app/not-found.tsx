import { PageLink } from "@/ui/shared/page-link";

export default function NotFound() {
  return (
    <main style={{ padding: 48, maxWidth: 560 }}>
      <h1>There is nothing here</h1>
      <p>
        The template may have been deleted, or the address is not quite right.{" "}
        <PageLink href="/">Go to the library</PageLink>
      </p>
    </main>
  );
}
