"use client";
/** A link whose page is fetched ahead as soon as somebody points at it, and not before. */
import Link from "next/link";
import { useRouter } from "next/navigation";
import { ComponentProps, useRef } from "react";

type Props = Omit<ComponentProps<typeof Link>, "href" | "prefetch" | "onPointerEnter" | "onFocus"> & { href: string };

export function PointedLink({ href, ...props }: Props) {
  const router = useRouter();
  const isFetched = useRef(false);
  const isHere = props["aria-current"] !== undefined;
  const fetchAhead = () => {
    if (!isFetched.current && !isHere) router.prefetch(href);
    isFetched.current = true;
  };
  return <Link {...props} href={href} prefetch={false} onPointerEnter={fetchAhead} onFocus={fetchAhead} />;
}
