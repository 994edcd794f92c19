"use client";
/**
 * A page can be seen before it can be used, for the moment until its script runs. Presses of that moment are kept and done then, so that
 * no button is ever dead. Links work by themselves.
 */
import { useEffect } from "react";

interface Keeping {
  targets: HTMLElement[];
  keep(event: Event): void;
}

declare global {
  interface Window {
    cucharaEarly?: Keeping;
  }
}

/** Runs before anything else on the page. */
const KEEP = `(()=>{const targets=[];const keep=(event)=>{const target=event.target;
if(!(target instanceof Element)||target.closest("a[href]"))return;
const pressed=target.closest("button,[role=tab],[role=switch],label,summary");
if(!pressed)return;event.preventDefault();event.stopPropagation();targets.push(pressed)};
document.addEventListener("click",keep,true);window.cucharaEarly={targets,keep}})()`;

export function EarlyClicks({ nonce }: { nonce: string | undefined }) {
  useEffect(() => {
    const early = window.cucharaEarly;
    if (!early) return;
    delete window.cucharaEarly;
    document.removeEventListener("click", early.keep, true);
    for (const target of early.targets) if (target.isConnected) target.click();
  }, []);
  // The browser hides a nonce from scripts, so the page cannot compare it.
  return <script nonce={nonce} suppressHydrationWarning dangerouslySetInnerHTML={{ __html: KEEP }} />;
}
