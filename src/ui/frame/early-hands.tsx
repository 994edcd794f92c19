"use client";
/**
 * A page can be seen before it can be used, for the moment until its script runs. What is pressed and typed in that moment is kept and
 * done then: no button is ever dead, and nothing typed is lost. Links work by themselves.
 */
import { useEffect } from "react";

interface Keeping {
  pressed: HTMLElement[];
  /** Fields, and what was typed into them. */
  typed: Map<HTMLInputElement | HTMLTextAreaElement, string>;
  press(event: Event): void;
  type(event: Event): void;
}

declare global {
  interface Window {
    cucharaEarly?: Keeping;
  }
}

/** Runs before anything else on the page. */
const KEEP = `(()=>{const pressed=[],typed=new Map();
const press=(event)=>{const target=event.target;
if(!(target instanceof Element)||target.closest("a[href]"))return;
const button=target.closest("button,[role=tab],[role=switch],label,summary");
if(!button)return;event.preventDefault();event.stopPropagation();pressed.push(button)};
const type=({target})=>{if(target instanceof HTMLInputElement||target instanceof HTMLTextAreaElement)typed.set(target,target.value)};
document.addEventListener("click",press,true);document.addEventListener("input",type,true);
window.cucharaEarly={pressed,typed,press,type}})()`;

/** Types a text into a field as hands do: what watches the field hears of it. A file that was chosen stays chosen. */
function typeInto(field: HTMLInputElement | HTMLTextAreaElement, text: string): void {
  if (field.type === "file") return void field.dispatchEvent(new Event("change", { bubbles: true }));
  const prototype = field instanceof HTMLInputElement ? HTMLInputElement.prototype : HTMLTextAreaElement.prototype;
  Object.getOwnPropertyDescriptor(prototype, "value")!.set!.call(field, text);
  field.dispatchEvent(new Event("input", { bubbles: true }));
}

export function EarlyHands({ nonce }: { nonce: string | undefined }) {
  useEffect(() => {
    const early = window.cucharaEarly;
    if (!early) return;
    delete window.cucharaEarly;
    document.removeEventListener("click", early.press, true);
    document.removeEventListener("input", early.type, true);
    for (const [field, text] of early.typed) if (field.isConnected) typeInto(field, text);
    for (const target of early.pressed) if (target.isConnected) target.click();
    document.documentElement.dataset.ready = "";
  }, []);
  // The browser hides a nonce from scripts, so the page cannot compare it.
  return <script nonce={nonce} suppressHydrationWarning dangerouslySetInnerHTML={{ __html: KEEP }} />;
}
