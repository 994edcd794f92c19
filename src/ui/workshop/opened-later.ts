"use client";
/** Loaded when it is opened. */
import dynamic from "next/dynamic";
import { createElement } from "react";
import { Loading } from "../common/loading";

export const ChangeTable = dynamic(() => import("./change-table").then((module) => module.ChangeTable), {
  ssr: false,
  loading: () => createElement(Loading, { rows: 8 }),
});
export const EditStack = dynamic(() => import("./edit-stack").then((module) => module.EditStack), {
  ssr: false,
  loading: () => createElement(Loading, { rows: 6 }),
});
export const FileProgram = dynamic(() => import("./file-program").then((module) => module.FileProgram), {
  ssr: false,
  loading: () => createElement(Loading, { rows: 10 }),
});
