/**
 * Sine and cosine with the same bits on every machine: engines may round their own differently.
 *
 * Method: reduction to |r| <= pi/4 with pi/2 in three parts (Cody & Waite 1980), then the polynomials of fdlibm's
 * `k_sin.c` and `k_cos.c` (Sun Microsystems 1993). Errors below two units in the last place for |x| up to 1e5; beyond
 * 1e9 the reduction has lost every digit, and the callers refuse such arguments.
 */
const HALF_PI_1 = 1.57079632673412561417
const HALF_PI_2 = 6.0771005063039659766e-11
const HALF_PI_3 = 2.02226624879595063154e-21
const TWO_OVER_PI = 0.636619772367581343076

export function sine(x: number): number {
  return quarter(x, 0)
}

export function cosine(x: number): number {
  return quarter(x, 1)
}

/** sin(x + turns quarter turns) */
function quarter(x: number, turns: number): number {
  const n = Math.round(x * TWO_OVER_PI)
  const r = x - n * HALF_PI_1 - n * HALF_PI_2 - n * HALF_PI_3
  switch ((((n + turns) % 4) + 4) % 4) {
    case 0:
      return sineNear(r)
    case 1:
      return cosineNear(r)
    case 2:
      return -sineNear(r)
    default:
      return -cosineNear(r)
  }
}

function sineNear(r: number): number {
  const z = r * r
  return (
    r +
    r *
      z *
      (-1.66666666666666324348e-1 +
        z *
          (8.33333333332248946124e-3 +
            z *
              (-1.98412698298579493134e-4 +
                z *
                  (2.75573137070700676789e-6 +
                    z * (-2.50507602534068634195e-8 + z * 1.58969099521155010221e-10)))))
  )
}

function cosineNear(r: number): number {
  const z = r * r
  const tail =
    z *
    (4.16666666666666019037e-2 +
      z *
        (-1.38888888888741095749e-3 +
          z *
            (2.48015872894767294178e-5 +
              z *
                (-2.75573143513906633035e-7 +
                  z * (2.0875723212981748279e-9 + z * -1.13596475577881948265e-11)))))
  const half = 0.5 * z
  const w = 1 - half
  return w + (1 - w - half + z * tail)
}
