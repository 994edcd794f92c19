"use client";
/** Dialogs about trials, each loaded when it is opened. */
import dynamic from "next/dynamic";

export const FillDialog = dynamic(() => import("./fill-dialog").then((module) => module.FillDialog), { ssr: false });
export const PasteDialog = dynamic(() => import("./paste-dialog").then((module) => module.PasteDialog), { ssr: false });
export const NewTrial = dynamic(() => import("./new-trial").then((module) => module.NewTrial), { ssr: false });
export const CopyTrial = dynamic(() => import("./copy-trial").then((module) => module.CopyTrial), { ssr: false });
