"use client";
/** A button that goes to another page of the program, without loading everything anew. */
import { Button, ButtonProps } from "antd";
import { useRouter } from "next/navigation";

export function LinkButton({ href, ...props }: ButtonProps & { href: string }) {
  const router = useRouter();
  return (
    <Button
      {...props}
      href={href}
      onClick={(event) => {
        // A new tab is the browser's own business.
        if (event.metaKey || event.ctrlKey || event.shiftKey) return;
        event.preventDefault();
        router.push(href);
      }}
    />
  );
}
