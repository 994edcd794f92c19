"use client";
/** Steps that come behind printing: each is loaded when it is opened. */
import dynamic from "next/dynamic";
import { createElement } from "react";
import { Loading } from "../common/loading";

const loading = () => createElement(Loading, { rows: 8 });

export const RunStep = dynamic(() => import("../reading/run-step").then((module) => module.RunStep), {
  ssr: false,
  loading,
});
export const ReadStep = dynamic(() => import("../reading/read-step").then((module) => module.ReadStep), {
  ssr: false,
  loading,
});
export const KeepStep = dynamic(() => import("../reading/keep-step").then((module) => module.KeepStep), {
  ssr: false,
  loading,
});
