/** What a chamber tells instead of its upkeep: a word under it, how full it is drawn [0..1], how it stands out. */
export interface Mark {
  tag: string;
  fill: number;
  look: 'suspected' | 'cleared' | 'flowing';
}
