/**
 * The gas in pipes and cylinder: ideal, with a heat capacity that rises with temperature and with the burned share,
 * the same wherever it is used.
 *
 *   p = ρ R T,  c_v(T, Y) = fresh + Y·(burned − fresh) + rise·T,  e = ∫ c_v dT from 0 K
 *
 * Fresh and burned gas share one R; they differ by 1 to 2 % for petrol (Heywood (1988), ch. 4).
 */
export interface Gas {
  /** J/(kg K). */
  readonly R: number;
  /** Part of c_v that does not depend on temperature, of fresh and of burned gas, J/(kg K). */
  readonly fresh: number;
  readonly burned: number;
  /** Rise of c_v with temperature, J/(kg K²). */
  readonly rise: number;
}

/**
 * Lines through the usual tables: air c_v 718 J/(kg K) at 300 K and 854 at 1000 K; burned petrol mixture about 960 at
 * 1000 K and 1230 at 2500 K (from memory of Heywood (1988), fig. 4-17 and app. D; within 3 % from 300 to 2500 K).
 */
export const ENGINE_GAS: Gas = { R: 287.05, fresh: 662, burned: 770, rise: 0.185 };

/** A gas of one constant ratio of heats: what the exact solutions of textbooks are for. */
export const perfectGas = (gamma: number, R = 287.05): Gas => ({
  R,
  fresh: R / (gamma - 1),
  burned: R / (gamma - 1),
  rise: 0,
});

/** c_v without its rise, by the burned share Y. */
export const coldCv = (gas: Gas, Y: number): number => gas.fresh + Y * (gas.burned - gas.fresh);

export const internalEnergy = (gas: Gas, T: number, Y: number): number => T * (coldCv(gas, Y) + 0.5 * gas.rise * T);

export const enthalpy = (gas: Gas, T: number, Y: number): number => internalEnergy(gas, T, Y) + gas.R * T;

/** Temperature of an internal energy per kg. */
export function temperatureOf(gas: Gas, e: number, Y: number): number {
  const a = coldCv(gas, Y);
  return (2 * e) / (a + Math.sqrt(a * a + 2 * gas.rise * e));
}

/** Temperature of an enthalpy per kg. */
export function temperatureOfEnthalpy(gas: Gas, h: number, Y: number): number {
  const a = coldCv(gas, Y) + gas.R;
  return (2 * h) / (a + Math.sqrt(a * a + 2 * gas.rise * h));
}

/** Ratio of heats at a temperature and burned share. */
export const gammaOf = (gas: Gas, T: number, Y: number): number => 1 + gas.R / (coldCv(gas, Y) + gas.rise * T);

export const soundSpeedOf = (gas: Gas, T: number, Y: number): number => Math.sqrt(gammaOf(gas, T, Y) * gas.R * T);

/** Viscosity, Pa s: Sutherland's law with the constants of the U.S. Standard Atmosphere 1976, eq. 51. */
export const viscosity = (T: number): number => (1.458e-6 * T * Math.sqrt(T)) / (T + 110.4);
