/** A share in whole percents: "35 %". */
export const percent = (share: number): string => `${Math.round(share * 100)} %`;
/** The same to a tenth where there is one: "12.5 %", as values are typed into a lamp. */
export const finePercent = (share: number): string => `${Math.round(share * 1000) / 10} %`;
