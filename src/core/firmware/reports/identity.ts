/** What a firmware says of itself: one line of `KEY:value` pairs, then `Cap:NAME:0|1` lines. Common practice, no source. */

export interface Identity {
  fields: Record<string, string>;
  capabilities: Record<string, boolean>;
}

/** Reads the answer to M115; fields and capabilities that are not there are simply missing. */
export function readIdentity(lines: string[]): Identity {
  const identity: Identity = { fields: {}, capabilities: {} };
  for (const line of lines) {
    const capability = /Cap:\s*([A-Z0-9_]+)\s*:\s*([01])/i.exec(line);
    if (capability) {
      identity.capabilities[capability[1].toUpperCase()] = capability[2] === "1";
      continue;
    }
    // A value runs to the next key: values hold spaces, keys are capitals.
    for (const [, key, value] of line.matchAll(/(?:^|\s)([A-Z][A-Z_0-9]{2,}):(.*?)(?=\s[A-Z][A-Z_0-9]{2,}:|$)/g)) {
      identity.fields[key] = value.trim();
    }
  }
  return identity;
}

/** What a capability means, where it is known. */
export const capabilityMeanings: Record<string, string> = {
  EEPROM: "keeps saved values when the power is off",
  AUTOREPORT_TEMP: "reports temperatures by itself (M155)",
  EMERGENCY_STOP: "hears M112, M108 and M410 while it is busy",
  PROGRESS: "shows how far a print is (M73)",
  BUSY: "says when it is busy",
  FIRMWARE_RETRACTION: "draws back by itself (G10, G11)",
};

/** What a field means, where it is known. */
export const fieldMeanings: Record<string, string> = {
  FIRMWARE_NAME: "the firmware and its version",
  PROTOCOL_VERSION: "version of the line protocol",
  MACHINE_TYPE: "the machine it was built for",
  EXTRUDER_COUNT: "number of extruders",
  UUID: "number of this very board",
};
