/** A colour for each tool, told apart by lightness too; the same in both schemes, on log, layer and path. */
export const toolColours = ["#7A4370", "#D59A1F", "#5F7F3A", "#B1476A", "#3F6F86", "#A8673A", "#8A8A8A", "#2F8F7F"];
