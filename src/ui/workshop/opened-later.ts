"use client";
/** Loaded when it is opened. */
import dynamic from "next/dynamic";
import { ComponentType, createElement } from "react";
import { Loading } from "../common/loading";

export const ChangeTable = dynamic(() => import("./change-table").then((module) => module.ChangeTable), {
  ssr: false,
  loading: () => createElement(Loading, { rows: 8 }),
});
export const EditBoard = dynamic(() => import("./edit-board").then((module) => module.EditBoard), {
  ssr: false,
  loading: () => createElement(Loading, { rows: 6 }),
});
const view = <P extends object>(load: () => Promise<ComponentType<P>>) =>
  dynamic<P>(load, { ssr: false, loading: () => createElement(Loading, { rows: 10 }) });

export const FileFromAbove = view(() => import("./file-views").then((module) => module.FileFromAbove));
export const FilePath = view(() => import("./file-views").then((module) => module.FilePath));
export const FileFigures = view(() => import("./file-views").then((module) => module.FileFigures));
export const MergeCard = dynamic(() => import("./merge-card").then((module) => module.MergeCard), { ssr: false });
export const EditSets = view(() => import("./edit-sets").then((module) => module.EditSets));
export const FileProgram = dynamic(() => import("./file-program").then((module) => module.FileProgram), {
  ssr: false,
  loading: () => createElement(Loading, { rows: 10 }),
});
