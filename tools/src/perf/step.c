/*
 * The step of a pipe of core/src/simulation/pipe.ts again, in C: what the machine could do of it. Shut ends, no wall.
 * Prints nanoseconds a cell.
 */
#include <math.h>
#include <stdio.h>
#include <stdlib.h>
#include <time.h>

#define N 67
static const double R = 287.05, FRESH = 662, BURNED = 770, RISE = 0.185, DX = 0.015;
static double rho[N], u[N], p[N], Y[N], perRho[N], gam[N], mass[N], mom[N], en[N], bu[N], nm[N], nmo[N], ne[N], nb[N];
static double area[N + 1], volume[N], waveTime;

static double limited(double a, double b) {
  if (a * b <= 0) return 0;
  double c = 0.5 * (a + b), two = 2 * (fabs(a) < fabs(b) ? a : b);
  return fabs(c) < fabs(two) ? c : two;
}

static void settle(void) {
  double most = 0;
  for (int i = 0; i < N; i++) {
    double m = mass[i], per = 1 / m, v = mom[i] * per, y = bu[i] * per;
    double e = en[i] * per - 0.5 * v * v, a = FRESH + y * (BURNED - FRESH);
    double root = sqrt(a * a + 2 * RISE * e), t = 2 * R * e / (a + root), r = m / volume[i], g = 1 + R / root;
    rho[i] = r, u[i] = v, p[i] = r * t, Y[i] = y, perRho[i] = volume[i] * per, gam[i] = g;
    double rate = (fabs(v) + sqrt(g * t)) / DX;
    if (!(rate <= most)) most = rate;
  }
  waveTime = 1 / most;
}

static void step(double dt) {
  double fM = 0, fP = p[0] * area[0], fE = 0, fB = 0, lr = 0, lu = 0, lp = 0, lY = 0, lg = 0, pHalf = 0;
  for (int i = 0; i <= N; i++) {
    double rr = 0, ru = 0, rp = 0, rY = 0, rg = 0, farR = 0, farU = 0, farP = 0, farY = 0, here = 0;
    if (i < N) {
      double r = rho[i], v = u[i], q = p[i], y = Y[i], h = 0.5 * DX, sr = 0, su = 0, sp = 0, sY = 0;
      rg = gam[i];
      if (i > 0 && i < N - 1) {
        sr = limited((r - rho[i - 1]) / DX, (rho[i + 1] - r) / DX);
        su = limited((v - u[i - 1]) / DX, (u[i + 1] - v) / DX);
        sp = limited((q - p[i - 1]) / DX, (p[i + 1] - q) / DX);
        sY = limited((y - Y[i - 1]) / DX, (Y[i + 1] - y) / DX);
      }
      double spread = su + v * (area[i + 1] - area[i]) / volume[i];
      double r0 = r - 0.5 * dt * (v * sr + r * spread), p0 = q - 0.5 * dt * (v * sp + rg * q * spread);
      double u0 = v - 0.5 * dt * (v * su + sp * perRho[i]), Y0 = y - 0.5 * dt * v * sY;
      rr = r0 - h * sr, farR = r0 + h * sr, ru = u0 - h * su, farU = u0 + h * su;
      rp = p0 - h * sp, farP = p0 + h * sp, rY = Y0 - h * sY, farY = Y0 + h * sY, here = p0;
    }
    double gM, gP, gE, gB;
    if (i == 0) gM = fM, gP = fP, gE = fE, gB = fB;
    else if (i == N) gM = 0, gP = p[N - 1] * area[N], gE = 0, gB = 0;
    else {
      double lt = lp / lr, rt = rp / rr, lc = sqrt(lg * lt), rc = sqrt(rg * rt);
      double sl = fmin(lu - lc, ru - rc), sR = fmax(lu + lc, ru + rc), ml = lr * (sl - lu), mr = rr * (sR - ru);
      double star = (rp - lp + lu * ml - ru * mr) / (ml - mr), A = area[i];
      int left = star >= 0;
      double r = left ? lr : rr, v = left ? lu : ru, q = left ? lp : rp, y = left ? lY : rY, t = left ? lt : rt;
      double s = left ? sl : sR, m = left ? ml : mr;
      double e = t / R * (FRESH + y * (BURNED - FRESH) + 0.5 * RISE / R * t) + 0.5 * v * v;
      gM = r * v, gP = gM * v + q, gE = v * (r * e + q);
      if (left ? s < 0 : s > 0) {
        double k = m / (s - star);
        gP += s * (k * star - gM), gM += s * (k - r), gE += s * (k * (e + (star - v) * (star + q / m)) - r * e);
      }
      gM *= A, gP *= A, gE *= A, gB = gM * y;
    }
    if (i > 0) {
      int c = i - 1;
      nm[c] = mass[c] + dt * (fM - gM), nmo[c] = mom[c] + dt * (fP - gP + pHalf * (area[i] - area[c]));
      ne[c] = en[c] + dt * (fE - gE), nb[c] = bu[c] + dt * (fB - gB);
    }
    fM = gM, fP = gP, fE = gE, fB = gB, lr = farR, lu = farU, lp = farP, lY = farY, lg = rg, pHalf = here;
  }
  for (int i = 0; i < N; i++) mass[i] = nm[i], mom[i] = nmo[i], en[i] = ne[i], bu[i] = nb[i];
  settle();
}

int main(int argc, char **argv) {
  int steps = argc > 1 ? atoi(argv[1]) : 20000;
  for (int i = 0; i <= N; i++) area[i] = 1.2e-3 * (1 + 0.2 * sin(i * 0.3));
  for (int i = 0; i < N; i++) {
    volume[i] = 0.5 * (area[i] + area[i + 1]) * DX;
    double T = 400 + 100 * sin(i * 0.2), q = 1e5 * (1 + 0.3 * sin(i * 0.11)), y = 0.5 + 0.4 * sin(i * 0.07);
    mass[i] = q / (R * T) * volume[i], mom[i] = 0, bu[i] = mass[i] * y;
    en[i] = mass[i] * T * (FRESH + y * (BURNED - FRESH) + 0.5 * RISE * T);
  }
  settle();
  clock_t began = clock();
  for (int k = 0; k < steps; k++) step(0.8 * waveTime);
  printf("%.3f %.9e\n", 1e9 * (double)(clock() - began) / CLOCKS_PER_SEC / steps / N, en[0]);
  return 0;
}
