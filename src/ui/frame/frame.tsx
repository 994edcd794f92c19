"use client";
/** The rail with the areas, the strip with what lies on the bench, and the page. */
import Link from "next/link";
import { usePathname } from "next/navigation";
import { ReactNode, useState } from "react";
import { areas } from "./areas";
import { Follow } from "./follow";
import { FindAnything } from "./find-anything";
import { KeyList } from "./key-list";
import { useScheme } from "./scheme";
import { Strip } from "./strip";
import { useGlobalKeys } from "./use-global-keys";

export function Frame({ children }: { children: ReactNode }) {
  const pathname = usePathname();
  const { scheme, setScheme } = useScheme();
  const [open, setOpen] = useState<"keys" | "find" | null>(null);
  useGlobalKeys({ onKeys: () => setOpen("keys"), onFind: () => setOpen("find") });
  return (
    <div className="frame">
      <header className="rail">
        <div className="brand">Cuchara</div>
        <nav aria-label="Areas">
          {areas.map(({ path, label }) => (
            <Link key={path} href={path} aria-current={pathname.startsWith(path) ? "page" : undefined}>
              {label}
            </Link>
          ))}
        </nav>
        <div className="foot">
          <button onClick={() => setOpen("find")}>Find</button>
          <button onClick={() => setOpen("keys")}>Keys</button>
          <button onClick={() => setScheme(scheme === "dark" ? "light" : "dark")}>
            {scheme === "dark" ? "Light" : "Dark"}
          </button>
        </div>
      </header>
      <div>
        <Strip />
        <main className="page">
          <Follow />
          {children}
        </main>
      </div>
      <KeyList open={open === "keys"} onClose={() => setOpen(null)} />
      <FindAnything open={open === "find"} onClose={() => setOpen(null)} />
    </div>
  );
}
