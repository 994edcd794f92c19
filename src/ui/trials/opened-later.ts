"use client";
/** Views of a trial that bring much along: each is loaded when it is opened. */
import dynamic from "next/dynamic";
import { createElement } from "react";
import { Loading } from "../common/loading";

const loading = () => createElement(Loading, { rows: 8 });

export const AboveView = dynamic(() => import("./above-view").then((module) => module.AboveView), {
  ssr: false,
  loading,
});
export const BandTable = dynamic(() => import("./band-table").then((module) => module.BandTable), {
  ssr: false,
  loading,
});
export const SideBySideField = dynamic(() => import("./side-by-side").then((module) => module.SideBySideField), {
  ssr: false,
});
export const PathView = dynamic(() => import("./path-view").then((module) => module.PathView), { ssr: false, loading });
export const ProgramView = dynamic(() => import("./program-view").then((module) => module.ProgramView), {
  ssr: false,
  loading,
});
export const HeatChart = dynamic(() => import("./heat-chart").then((module) => module.HeatChart), {
  ssr: false,
  loading,
});
