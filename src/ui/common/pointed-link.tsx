"use client";
/** A link whose page is fetched ahead as soon as somebody points at it, and not before. */
import Link from "next/link";
import { useRouter } from "next/navigation";
import { ReactNode, useRef } from "react";

interface Props {
  href: string;
  current?: boolean;
  className?: string;
  children: ReactNode;
}

export function PointedLink({ href, current = false, className, children }: Props) {
  const router = useRouter();
  const isFetched = useRef(false);
  const fetchAhead = () => {
    if (!isFetched.current && !current) router.prefetch(href);
    isFetched.current = true;
  };
  return (
    <Link
      href={href}
      prefetch={false}
      className={className}
      aria-current={current ? "page" : undefined}
      onPointerEnter={fetchAhead}
      onFocus={fetchAhead}
    >
      {children}
    </Link>
  );
}
