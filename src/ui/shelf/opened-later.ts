"use client";
/** Parts of the shelf's forms that bring much along: each comes when the form stands. */
import dynamic from "next/dynamic";
import { createElement } from "react";
import { Loading } from "../common/loading";

export const AskThePrinter = dynamic(() => import("./ask-the-printer").then((module) => module.AskThePrinter), {
  ssr: false,
  loading: () => createElement(Loading, { rows: 4 }),
});
