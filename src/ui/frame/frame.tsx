"use client";
/** The rail with the areas, the strip with what lies on the bench, and the page. */
import dynamic from "next/dynamic";
import { usePathname } from "next/navigation";
import { ReactNode, useState } from "react";
import { AreaSymbol } from "./area-symbol";
import { areas } from "./areas";
import { PointedLink } from "../common/pointed-link";
import { Follow } from "./follow";
import { useScheme } from "./scheme";
import { Strip } from "./strip";
import { useGlobalKeys } from "./use-global-keys";
import styles from "./frame.module.css";

const FindAnything = dynamic(() => import("./find-anything").then((module) => module.FindAnything), { ssr: false });
const KeyList = dynamic(() => import("./key-list").then((module) => module.KeyList), { ssr: false });

export function Frame({ children }: { children: ReactNode }) {
  const pathname = usePathname();
  const { scheme, setScheme } = useScheme();
  const [open, setOpen] = useState<"keys" | "find" | null>(null);
  useGlobalKeys({ onKeys: () => setOpen("keys"), onFind: () => setOpen("find") });
  // A device that is not let in yet sees nothing of the bench.
  if (pathname === "/let-in") return <main className="page alone">{children}</main>;
  const quick = (
    <>
      <button onClick={() => setOpen("find")}>Find</button>
      <button onClick={() => setOpen("keys")}>Keys</button>
      <button onClick={() => setScheme(scheme === "dark" ? "light" : "dark")}>
        {scheme === "dark" ? "Light" : "Dark"}
      </button>
    </>
  );
  return (
    <div className={styles.frame}>
      <header className={styles.rail}>
        <div className={styles.brand}>Cuchara</div>
        <nav aria-label="Areas">
          {areas.map(({ path, label }) => (
            <PointedLink key={path} href={path} aria-current={pathname.startsWith(path) ? "page" : undefined}>
              <AreaSymbol path={path} className={styles.symbol} />
              {label}
            </PointedLink>
          ))}
        </nav>
        <div className={styles.foot}>{quick}</div>
      </header>
      <div>
        <Strip />
        <main className="page">
          <Follow />
          {children}
        </main>
        <div className={styles.quick}>{quick}</div>
      </div>
      {open === "keys" && <KeyList open onClose={() => setOpen(null)} />}
      {open === "find" && <FindAnything open onClose={() => setOpen(null)} />}
    </div>
  );
}
