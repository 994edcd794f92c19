"use client";
/** Dialogs of several pages, each loaded when it is opened. */
import dynamic from "next/dynamic";

export const ClashDialog = dynamic(() => import("./clash-dialog").then((module) => module.ClashDialog), { ssr: false });
export const LinesDialog = dynamic(() => import("./lines-dialog").then((module) => module.LinesDialog), { ssr: false });
