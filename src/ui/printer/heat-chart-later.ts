"use client";
/** The curves bring a chart library along: they come when the heat is looked at. */
import dynamic from "next/dynamic";
import { createElement } from "react";
import { Loading } from "../common/loading";

export const HeatChart = dynamic(() => import("./heat-curves").then((module) => module.HeatChart), {
  ssr: false,
  loading: () => createElement(Loading, { rows: 8 }),
});
