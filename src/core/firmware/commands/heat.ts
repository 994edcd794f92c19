import { Command } from "./command";

const pid = { P: "proportional part", I: "integral part", D: "derivative part" };

/** Heating, fans and feeding. Common practice, no source. */
export const heat: Command[] = [
  {
    code: "M104",
    does: "Sets the nozzle's temperature and goes on",
    words: { S: "°C to go to", T: "tool" },
    example: "M104 S200",
  },
  {
    code: "M109",
    does: "Sets the nozzle's temperature and waits",
    words: { S: "°C, waits while heating", R: "°C, waits while heating or cooling", T: "tool" },
    example: "M109 S200",
  },
  { code: "M105", does: "Asks for the temperatures", words: { T: "tool" } },
  { code: "M106", does: "Part fan on", words: { S: "duty, 0–255", P: "fan" }, example: "M106 S128" },
  { code: "M107", does: "Part fan off", words: { P: "fan" } },
  { code: "M108", does: "Stops waiting for heat" },
  { code: "M126", does: "Opens the valve of the part fan (on)" },
  { code: "M127", does: "Closes the valve of the part fan (off)" },
  { code: "M140", does: "Sets the bed's temperature and goes on", words: { S: "°C to go to" }, example: "M140 S60" },
  {
    code: "M190",
    does: "Sets the bed's temperature and waits",
    words: { S: "°C, waits while heating", R: "°C, waits while heating or cooling" },
    example: "M190 S60",
  },
  { code: "M155", does: "Reports temperatures by itself", words: { S: "every so many seconds, 0 for never" } },
  { code: "M221", does: "Flow factor", words: { S: "percent", T: "tool" }, example: "M221 S100" },
  { code: "M301", does: "How the nozzle's heater is regulated (PID)", words: { ...pid, E: "nozzle" } },
  {
    code: "M303",
    does: "Finds the PID figures by itself",
    words: {
      E: "nozzle, or -1 for the bed",
      S: "°C to swing about",
      C: "how many swings",
      U: "1 to use what it finds",
    },
    example: "M303 E0 S200 C5",
  },
  { code: "M304", does: "How the bed's heater is regulated (PID)", words: pid },
];
