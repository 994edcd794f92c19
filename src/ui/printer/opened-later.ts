"use client";
/** Views of a printer: each is loaded when it is opened. */
import dynamic from "next/dynamic";
import { createElement } from "react";
import { Loading } from "../common/loading";

const loading = () => createElement(Loading, { rows: 8 });

export const ConsoleView = dynamic(() => import("./console-view").then((module) => module.ConsoleView), { loading });
export const ValuesView = dynamic(() => import("./values-view").then((module) => module.ValuesView), {
  ssr: false,
  loading,
});
export const HeatView = dynamic(() => import("./heat-view").then((module) => module.HeatView), { ssr: false, loading });
export const JobView = dynamic(() => import("./job-view").then((module) => module.JobView), { ssr: false, loading });
