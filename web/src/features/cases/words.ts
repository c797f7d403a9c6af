/** The dentist's words for what the documents call things. */
export const kinds: [string, string][] = [
  ["fissure_caries", "Fissure caries"],
  ["pit_caries", "Pit caries"],
  ["proximal_caries", "Proximal caries"],
  ["cervical_caries", "Cervical caries"],
  ["old_restoration", "Old filling"],
  ["undermined_cusp", "Undermined cusp"],
  ["crack", "Crack"],
];

export const depths: [string, string][] = [
  ["outer_enamel", "Outer enamel"],
  ["inner_enamel", "Inner enamel"],
  ["outer_dentin", "Outer dentin"],
  ["middle_dentin", "Middle dentin"],
  ["inner_dentin", "Inner dentin"],
];

const siteNames: Record<string, string> = {
  central: "Central fissure",
  mesial_pit: "Mesial pit",
  distal_pit: "Distal pit",
  buccal_pit: "Buccal pit",
  lingual_pit: "Lingual pit",
  buccal_groove: "Buccal groove",
  lingual_groove: "Lingual groove",
  mesiobuccal_groove: "Mesiobuccal groove",
  distobuccal_groove: "Distobuccal groove",
  mesiolingual_groove: "Mesiolingual groove",
  distolingual_groove: "Distolingual groove",
  buccal_cusp: "Buccal cusp",
  lingual_cusp: "Lingual cusp",
  mesiobuccal: "Mesiobuccal cusp",
  distobuccal: "Distobuccal cusp",
  mesiolingual: "Mesiolingual cusp",
  distolingual: "Distolingual cusp",
  distal_cusp: "Distal cusp",
  mesial: "Mesial",
  distal: "Distal",
  buccal: "Buccal",
  lingual: "Lingual",
};

/** The dentist's name of a site. */
export function siteName(site: string): string {
  return siteNames[site] ?? site;
}

/** What a tooth has for findings to lie on. */
export interface Places {
  pits: string[];
  grooves: string[];
  cusps: string[];
}

/** The sites a kind of finding can have on a tooth with these places. */
export function sitesFor(kind: string, { pits, grooves, cusps }: Places): [string, string][] {
  const named = (sites: string[]) => sites.map((s): [string, string] => [s, siteNames[s] ?? s]);
  const ends = ["mesial_pit", "distal_pit"].filter((s) => pits.includes(s.replace("_", " ")));
  switch (kind) {
    case "proximal_caries":
    case "crack":
      return named(["mesial", "distal"]);
    case "cervical_caries":
      return named(["buccal", "lingual"]);
    case "old_restoration":
      return named(["central", ...ends, "mesial", "distal"]);
    case "undermined_cusp":
      return named(cusps);
    case "pit_caries":
      return named(["central", ...ends, "buccal_pit", "lingual_pit"]);
    default:
      return named(["central", ...ends, ...grooves]);
  }
}

export function confirmationQuestion(method: string): { label: string; hint: string } {
  switch (method) {
    case "universal":
      return { label: "Universal number", hint: "1 to 32, or A to T" };
    case "quadrant":
      return { label: "Quadrant and place", hint: "such as LR6" };
    default:
      return { label: "Arch, side and count from the midline", hint: "such as lower right 6" };
  }
}
