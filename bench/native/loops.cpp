// The same constraint loops as packages/kernel/assembly (membrane.ts, bendFlat.ts, state.ts) in C++ with 4-wide SSE: the
// native limit that the WebAssembly kernel is held against. Reads the kernel's own arrays from a file.
//   loops FILE SUBSTEPS ROUNDS   prints the milliseconds of each round of SUBSTEPS substeps
#include <chrono>
#include <cstdint>
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <vector>
#include <xmmintrin.h>

using Vec = __m128;
static inline Vec splat(float x) { return _mm_set1_ps(x); }
static inline Vec mul_add(Vec a, Vec b, Vec c) { return _mm_add_ps(_mm_mul_ps(a, b), c); }
static inline Vec negate(Vec a) { return _mm_sub_ps(_mm_setzero_ps(), a); }
static inline Vec select(Vec mask, Vec yes, Vec no) { return _mm_or_ps(_mm_and_ps(mask, yes), _mm_andnot_ps(mask, no)); }

struct Group {
  uint32_t i0[4], i1[4], i2[4];
  float a[4], b[4], c[4], d[4], warp[4], weft[4], shear[4], softer[4];
};
struct Hinge {
  uint32_t i[4];
  float k1, k2, k3, f0, f1, f2, f3, damping;
};

static char *points, *moved;

static inline Vec difference(uint32_t i, uint32_t j) {
  return _mm_add_ps(_mm_sub_ps(_mm_load_ps((float *)(points + i)), _mm_load_ps((float *)(points + j))),
                    _mm_sub_ps(_mm_load_ps((float *)(moved + i)), _mm_load_ps((float *)(moved + j))));
}

static inline void scatter(const uint32_t *at, Vec x, Vec y, Vec z) {
  Vec w = _mm_setzero_ps();
  _MM_TRANSPOSE4_PS(x, y, z, w);
  const Vec rows[4] = {x, y, z, w};
  for (int k = 0; k < 4; k++) {
    float *to = (float *)(moved + at[k]);
    _mm_store_ps(to, _mm_add_ps(_mm_load_ps(to), rows[k]));
  }
}

static void membrane(const Group *groups, int count) {
  const Vec one = splat(1), zero = _mm_setzero_ps(), tiny = splat(1e-20f);
  for (int n = 0; n < count; n++) {
    const Group &g = groups[n];
    Vec e1x = difference(g.i1[0], g.i0[0]), e1y = difference(g.i1[1], g.i0[1]), e1z = difference(g.i1[2], g.i0[2]),
        e1w = difference(g.i1[3], g.i0[3]);
    Vec e2x = difference(g.i2[0], g.i0[0]), e2y = difference(g.i2[1], g.i0[1]), e2z = difference(g.i2[2], g.i0[2]),
        e2w = difference(g.i2[3], g.i0[3]);
    _MM_TRANSPOSE4_PS(e1x, e1y, e1z, e1w);
    _MM_TRANSPOSE4_PS(e2x, e2y, e2z, e2w);
    float masses[3][4];
    for (int k = 0; k < 4; k++) {
      masses[0][k] = ((float *)(points + g.i0[k]))[3];
      masses[1][k] = ((float *)(points + g.i1[k]))[3];
      masses[2][k] = ((float *)(points + g.i2[k]))[3];
    }
    const Vec w0 = _mm_loadu_ps(masses[0]), w1 = _mm_loadu_ps(masses[1]), w2 = _mm_loadu_ps(masses[2]);
    Vec c0[3] = {zero, zero, zero}, c1[3] = {zero, zero, zero}, c2[3] = {zero, zero, zero};
    const Vec softer = _mm_loadu_ps(g.softer);
    const float *pairs[2][3] = {{g.a, g.c, g.warp}, {g.b, g.d, g.weft}};
    for (auto &pair : pairs) {
      const Vec p = _mm_loadu_ps(pair[0]), q = _mm_loadu_ps(pair[1]);
      const Vec tx = mul_add(p, e1x, _mm_mul_ps(q, e2x)), ty = mul_add(p, e1y, _mm_mul_ps(q, e2y)),
                tz = mul_add(p, e1z, _mm_mul_ps(q, e2z));
      const Vec length = _mm_sqrt_ps(mul_add(tx, tx, mul_add(ty, ty, _mm_mul_ps(tz, tz))));
      const Vec error = _mm_sub_ps(length, one);
      Vec compliance = _mm_loadu_ps(pair[2]);
      compliance = select(_mm_cmplt_ps(error, zero), _mm_mul_ps(compliance, softer), compliance);
      const Vec sum = _mm_add_ps(p, q);
      const Vec weight =
          mul_add(w1, _mm_mul_ps(p, p), mul_add(w2, _mm_mul_ps(q, q), _mm_mul_ps(w0, _mm_mul_ps(sum, sum))));
      const Vec scale =
          negate(_mm_div_ps(error, _mm_mul_ps(_mm_add_ps(weight, compliance), _mm_max_ps(length, tiny))));
      const Vec s1 = _mm_mul_ps(scale, _mm_mul_ps(w1, p)), s2 = _mm_mul_ps(scale, _mm_mul_ps(w2, q)),
                s0 = negate(_mm_mul_ps(scale, _mm_mul_ps(w0, sum)));
      const Vec r1 = _mm_sub_ps(s1, s0), r2 = _mm_sub_ps(s2, s0);
      c0[0] = mul_add(s0, tx, c0[0]), c0[1] = mul_add(s0, ty, c0[1]), c0[2] = mul_add(s0, tz, c0[2]);
      c1[0] = mul_add(s1, tx, c1[0]), c1[1] = mul_add(s1, ty, c1[1]), c1[2] = mul_add(s1, tz, c1[2]);
      c2[0] = mul_add(s2, tx, c2[0]), c2[1] = mul_add(s2, ty, c2[1]), c2[2] = mul_add(s2, tz, c2[2]);
      e1x = mul_add(r1, tx, e1x), e1y = mul_add(r1, ty, e1y), e1z = mul_add(r1, tz, e1z);
      e2x = mul_add(r2, tx, e2x), e2y = mul_add(r2, ty, e2y), e2z = mul_add(r2, tz, e2z);
    }
    const Vec a = _mm_loadu_ps(g.a), b = _mm_loadu_ps(g.b), c = _mm_loadu_ps(g.c), d = _mm_loadu_ps(g.d);
    const Vec tx = mul_add(a, e1x, _mm_mul_ps(c, e2x)), ty = mul_add(a, e1y, _mm_mul_ps(c, e2y)),
              tz = mul_add(a, e1z, _mm_mul_ps(c, e2z));
    const Vec vx = mul_add(b, e1x, _mm_mul_ps(d, e2x)), vy = mul_add(b, e1y, _mm_mul_ps(d, e2y)),
              vz = mul_add(b, e1z, _mm_mul_ps(d, e2z));
    const Vec error = mul_add(tx, vx, mul_add(ty, vy, _mm_mul_ps(tz, vz)));
    const Vec g1x = mul_add(a, vx, _mm_mul_ps(b, tx)), g1y = mul_add(a, vy, _mm_mul_ps(b, ty)),
              g1z = mul_add(a, vz, _mm_mul_ps(b, tz));
    const Vec g2x = mul_add(c, vx, _mm_mul_ps(d, tx)), g2y = mul_add(c, vy, _mm_mul_ps(d, ty)),
              g2z = mul_add(c, vz, _mm_mul_ps(d, tz));
    const Vec g0x = _mm_add_ps(g1x, g2x), g0y = _mm_add_ps(g1y, g2y), g0z = _mm_add_ps(g1z, g2z);
    const Vec weight = mul_add(
        w1, mul_add(g1x, g1x, mul_add(g1y, g1y, _mm_mul_ps(g1z, g1z))),
        mul_add(w2, mul_add(g2x, g2x, mul_add(g2y, g2y, _mm_mul_ps(g2z, g2z))),
                _mm_mul_ps(w0, mul_add(g0x, g0x, mul_add(g0y, g0y, _mm_mul_ps(g0z, g0z))))));
    const Vec scale = negate(_mm_div_ps(error, _mm_max_ps(_mm_add_ps(weight, _mm_loadu_ps(g.shear)), tiny)));
    const Vec s1 = _mm_mul_ps(scale, w1), s2 = _mm_mul_ps(scale, w2), s0 = negate(_mm_mul_ps(scale, w0));
    scatter(g.i0, mul_add(s0, g0x, c0[0]), mul_add(s0, g0y, c0[1]), mul_add(s0, g0z, c0[2]));
    scatter(g.i1, mul_add(s1, g1x, c1[0]), mul_add(s1, g1y, c1[1]), mul_add(s1, g1z, c1[2]));
    scatter(g.i2, mul_add(s2, g2x, c2[0]), mul_add(s2, g2y, c2[1]), mul_add(s2, g2z, c2[2]));
  }
}

static void bend(const Hinge *hinges, int count) {
  const Vec mask = _mm_castsi128_ps(_mm_set_epi32(0, -1, -1, -1));
  for (int n = 0; n < count; n++) {
    const Hinge &h = hinges[n];
    const Vec s = _mm_and_ps(mul_add(splat(h.k1), difference(h.i[1], h.i[0]),
                                     mul_add(splat(h.k2), difference(h.i[2], h.i[0]),
                                             _mm_mul_ps(splat(h.k3), difference(h.i[3], h.i[0])))),
                             mask);
    const float f[4] = {h.f0, h.f1, h.f2, h.f3};
    for (int k = 0; k < 4; k++) {
      float *to = (float *)(moved + h.i[k]);
      _mm_store_ps(to, _mm_sub_ps(_mm_load_ps(to), _mm_mul_ps(splat(f[k]), s)));
    }
  }
}

int main(int, char **arguments) {
  FILE *file = fopen(arguments[1], "rb");
  if (!file) return 1;
  int32_t counts[3];
  float step[2];
  if (fread(counts, 4, 3, file) != 3 || fread(step, 4, 2, file) != 2) return 1;
  const size_t bytes = (size_t)counts[0] * 16;
  auto room = [](size_t size) { return (char *)aligned_alloc(64, (size + 63) & ~(size_t)63); };
  points = room(bytes), moved = room(bytes);
  char *residual = room(bytes), *velocity = room(bytes);
  Group *groups = (Group *)room(counts[1] * sizeof(Group));
  Hinge *hinges = (Hinge *)room(counts[2] * sizeof(Hinge));
  if (fread(points, 1, bytes, file) != bytes) return 1;
  if (fread(groups, sizeof(Group), counts[1], file) != (size_t)counts[1]) return 1;
  if (fread(hinges, sizeof(Hinge), counts[2], file) != (size_t)counts[2]) return 1;
  fclose(file);
  memset(residual, 0, bytes), memset(velocity, 0, bytes);
  const Vec h = splat(step[0]), rate = splat(1 / step[0]);
  const Vec fall = _mm_set_ps(0, 0, step[1], 0);
  const int substeps = atoi(arguments[2]);
  for (int round = 0; round < atoi(arguments[3]); round++) {
    const auto started = std::chrono::steady_clock::now();
    for (int n = 0; n < substeps; n++) {
      for (size_t at = 0; at < bytes; at += 16) {
        const Vec e = _mm_load_ps((float *)(residual + at));
        if (((float *)(points + at))[3] == 0) {
          _mm_store_ps((float *)(moved + at), e);
          _mm_store_ps((float *)(velocity + at), _mm_setzero_ps());
          continue;
        }
        const Vec v = mul_add(fall, h, _mm_load_ps((float *)(velocity + at)));
        _mm_store_ps((float *)(velocity + at), v);
        _mm_store_ps((float *)(moved + at), mul_add(v, h, e));
      }
      membrane(groups, counts[1]);
      bend(hinges, counts[2]);
      for (size_t at = 0; at < bytes; at += 16) {
        const Vec d = _mm_load_ps((float *)(moved + at)), p = _mm_load_ps((float *)(points + at));
        const Vec to = _mm_add_ps(p, d);
        _mm_store_ps((float *)(velocity + at), _mm_mul_ps(_mm_sub_ps(d, _mm_load_ps((float *)(residual + at))), rate));
        _mm_store_ps((float *)(points + at), to);
        _mm_store_ps((float *)(residual + at), _mm_sub_ps(d, _mm_sub_ps(to, p)));
      }
    }
    const std::chrono::duration<double, std::milli> spent = std::chrono::steady_clock::now() - started;
    printf("%.4f\n", spent.count());
  }
  // Where the middle is, so that the work cannot be left out.
  fprintf(stderr, "%g\n", ((float *)(points + (bytes / 32) * 16))[1]);
  return 0;
}
