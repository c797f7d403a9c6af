// Written by internal/document/generate from internal/export/list. Do not edit.

/** The files that the sheet offers, with what its menu calls them. */
export const exportedFiles: [string, string][] = [
  ["card.pdf", "Card, A4 (PDF)"],
  ["card-letter.pdf", "Card, Letter (PDF)"],
  ["tray.pdf", "Tray (PDF)"],
  ["drawing.svg", "Drawing (SVG)"],
  ["drawing.png", "Drawing (PNG)"],
  ["steps.csv", "Steps, proven (CSV)"],
  ["steps.json", "Steps, proven (JSON)"],
  ["plan.json", "Plan (JSON)"],
  ["case.json", "Case (JSON)"],
  ["prepared.stl", "Prepared tooth (STL)"],
  ["intact.stl", "Intact tooth (STL)"],
  ["cavity.stl", "Cavity (STL)"],
  ["filling.stl", "Filling (STL)"],
  ["prepared.obj", "Prepared tooth (OBJ)"],
  ["prepared.ply", "Prepared tooth (PLY)"],
];
