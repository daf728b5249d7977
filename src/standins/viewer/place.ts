/** The walls of the regatta, by their tags. */
export const walls = {
  W1: { name: 'Foyer', monitors: ['Left', 'Middle', 'Right'], signsIn: false },
  W2: { name: 'Bar', monitors: ['Counter', 'Terrace'], signsIn: true },
  W3: { name: 'Boat house', monitors: ['Gate'], signsIn: false },
} as const;
