/** The five stages and their views: one table for the top bar, the keys and find-or-do. */
export const STAGES = [
  {
    code: "define",
    name: "Define",
    views: [
      ["fields", "Fields"],
      ["lists", "Value lists"],
      ["records", "Record types"],
      ["copies", "Shared copy"],
      ["housekeeping", "Housekeeping"],
      ["files", "Files"],
    ],
  },
  {
    code: "compose",
    name: "Compose",
    views: [
      ["types", "Product types"],
      ["sets", "Field sets"],
      ["options", "Option sets"],
      ["sheet", "Who has what"],
      ["collections", "Collections"],
    ],
  },
  {
    code: "fill",
    name: "Fill",
    views: [
      ["products", "Products"],
      ["records", "Records"],
    ],
  },
  {
    code: "present",
    name: "Present",
    views: [
      ["weave", "Weave"],
      ["layouts", "Layouts"],
    ],
  },
  {
    code: "release",
    name: "Release",
    views: [
      ["changes", "What will change"],
      ["checks", "Checks"],
      ["history", "History"],
      ["jobs", "Jobs"],
      ["systems", "Other systems"],
    ],
  },
] as const;
