"use client";

import Link from "next/link";
import type { ComponentProps } from "react";
import { leaveFor } from "./going";

/**
 * A way to another page. Pages are made when they are gone to: each shows a document as it is then, so that one fetched
 * before has nothing to show, and a library of two hundred templates would ask for two hundred of them.
 */
export const PageLink = ({ onNavigate, ...props }: Omit<ComponentProps<typeof Link>, "prefetch">) => (
  <Link
    prefetch={false}
    {...props}
    onNavigate={(event) => {
      leaveFor(props.href.toString());
      onNavigate?.(event);
    }}
  />
);
