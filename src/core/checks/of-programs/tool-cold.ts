import { COLDEST_FEED_C } from "../../material/materials";
import { plainNumber } from "../../units";
import { ProgramCheck } from "../check";

/** A further tool that lays material cold: the first one that does is told by the check of cold extrusion. */
export const toolCold: ProgramCheck = {
  key: "tool-cold",
  passes: null,
  run({ report: { facts } }) {
    return facts.tools
      .filter(({ coldFeed }) => coldFeed && coldFeed.line !== facts.coldFeed?.line)
      .map(({ tool, coldFeed }) => ({
        check: "tool-cold",
        severity: "stop" as const,
        where: `line ${coldFeed!.line}`,
        message:
          coldFeed!.value === 0
            ? `Tool ${tool} pushes filament before it is heated. Heat it before that with M109 S… T${tool}.`
            : `Tool ${tool} pushes filament at ${plainNumber(coldFeed!.value, 0)} °C; below ${COLDEST_FEED_C} °C it does not melt.`,
      }));
  },
};
