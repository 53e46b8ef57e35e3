// A small path tracer on Embree that does the work of Dusting's: the same events, lights, limits and passes, on one thread.
// Reads a scene from the first file named, renders its region with the groups of 4 samples asked for, and prints processor
// seconds, rays and the mean and standard error of the radiance.
#include <embree3/rtcore.h>
#include <chrono>
#include <cmath>
#include <cstdint>
#include <cstdio>
#include <cstdlib>
#include <ctime>
#include <limits>
#include <vector>

using std::max;
using std::min;
static const double PI = 3.14159265358979323846;
static const double INF = std::numeric_limits<double>::infinity();

struct V {
  double x, y, z;
};
static inline V operator+(V a, V b) { return {a.x + b.x, a.y + b.y, a.z + b.z}; }
static inline V operator-(V a, V b) { return {a.x - b.x, a.y - b.y, a.z - b.z}; }
static inline V operator*(V a, double s) { return {a.x * s, a.y * s, a.z * s}; }
static inline V operator*(V a, V b) { return {a.x * b.x, a.y * b.y, a.z * b.z}; }
static inline double dot(V a, V b) { return a.x * b.x + a.y * b.y + a.z * b.z; }
static inline V cross(V a, V b) { return {a.y * b.z - a.z * b.y, a.z * b.x - a.x * b.z, a.x * b.y - a.y * b.x}; }
static inline V unit(V a) { return a * (1 / std::sqrt(dot(a, a))); }

// What the scene file holds, in its order; see `tellScene` in paths-native.ts.
enum Kind { MATT, MIRROR, GLASS };
struct Material {
  int kind;
  double grey, ior;
};
struct Instance {
  int mesh;
  Material material;
  double toWorld[12];
};
struct Mesh {
  std::vector<float> positions;
  std::vector<uint32_t> indices;
  RTCScene scene;
};
struct Scene {
  int width, height, diffuseLimit, otherLimit, overallLimit;
  double camera[12];
  int hasSquare;
  double corner[3], u[3], v[3], normal[3], area, radiance;
  double sky;
  std::vector<Mesh> meshes;
  std::vector<Instance> instances;
  RTCScene top;
};

struct Random {
  uint64_t state, inc;
  double next() {
    const uint64_t old = state;
    state = old * 6364136223846793005ULL + inc;
    const uint32_t x = (uint32_t)(((old >> 18u) ^ old) >> 27u), r = (uint32_t)(old >> 59u);
    return ((x >> r) | (x << ((32 - r) & 31))) * (1.0 / 4294967296.0);
  }
};

static std::vector<double> file;
static size_t at = 0;
static double number() { return file[at++]; }

static void read(const char *path, Scene &s) {
  FILE *f = std::fopen(path, "rb");
  std::fseek(f, 0, SEEK_END);
  file.resize(std::ftell(f) / sizeof(double));
  std::rewind(f);
  if (std::fread(file.data(), sizeof(double), file.size(), f) != file.size()) std::exit(1);
  std::fclose(f);
  s.width = number(), s.height = number();
  s.diffuseLimit = number(), s.otherLimit = number(), s.overallLimit = number();
  for (double &c : s.camera) c = number();
  s.hasSquare = number();
  for (double *part : {s.corner, s.u, s.v, s.normal}) for (int a = 0; a < 3; a++) part[a] = number();
  s.area = number(), s.radiance = number(), s.sky = number();
  s.meshes.resize((size_t)number());
  for (Mesh &m : s.meshes) {
    m.positions.resize((size_t)number());
    m.indices.resize((size_t)number());
    for (float &p : m.positions) p = (float)number();
    for (uint32_t &i : m.indices) i = (uint32_t)number();
  }
  s.instances.resize((size_t)number());
  for (Instance &i : s.instances) {
    i.mesh = number();
    i.material = {(int)number(), number(), number()};
    for (double &c : i.toWorld) c = number();
  }
}

static void build(RTCDevice device, Scene &s) {
  s.top = rtcNewScene(device);
  rtcSetSceneFlags(s.top, RTC_SCENE_FLAG_ROBUST);
  rtcSetSceneBuildQuality(s.top, RTC_BUILD_QUALITY_HIGH);
  for (Mesh &m : s.meshes) {
    m.scene = rtcNewScene(device);
    rtcSetSceneFlags(m.scene, RTC_SCENE_FLAG_ROBUST);
    rtcSetSceneBuildQuality(m.scene, RTC_BUILD_QUALITY_HIGH);
    RTCGeometry g = rtcNewGeometry(device, RTC_GEOMETRY_TYPE_TRIANGLE);
    float *p = (float *)rtcSetNewGeometryBuffer(g, RTC_BUFFER_TYPE_VERTEX, 0, RTC_FORMAT_FLOAT3, 12, m.positions.size() / 3);
    for (size_t i = 0; i < m.positions.size(); i++) p[i] = m.positions[i];
    uint32_t *k = (uint32_t *)rtcSetNewGeometryBuffer(g, RTC_BUFFER_TYPE_INDEX, 0, RTC_FORMAT_UINT3, 12, m.indices.size() / 3);
    for (size_t i = 0; i < m.indices.size(); i++) k[i] = m.indices[i];
    rtcCommitGeometry(g);
    rtcAttachGeometry(m.scene, g);
    rtcCommitScene(m.scene);
  }
  for (Instance &i : s.instances) {
    RTCGeometry g = rtcNewGeometry(device, RTC_GEOMETRY_TYPE_INSTANCE);
    rtcSetGeometryInstancedScene(g, s.meshes[i.mesh].scene);
    float rows[12];
    for (int k = 0; k < 12; k++) rows[k] = (float)i.toWorld[k];
    rtcSetGeometryTransform(g, 0, RTC_FORMAT_FLOAT3X4_ROW_MAJOR, rows);
    rtcCommitGeometry(g);
    rtcAttachGeometry(s.top, g);
  }
  rtcCommitScene(s.top);
}

static double fresnel(double cosine, double eta) {
  const double sine2 = (1 - cosine * cosine) / (eta * eta);
  if (sine2 >= 1) return 1;
  const double t = std::sqrt(1 - sine2), s = (cosine - eta * t) / (cosine + eta * t), p = (eta * cosine - t) / (eta * cosine + t);
  return 0.5 * (s * s + p * p);
}

struct Tracer {
  const Scene &s;
  Random random;
  RTCIntersectContext context;
  uint64_t rays = 0;

  Tracer(const Scene &scene) : s(scene) { rtcInitIntersectContext(&context); }

  bool closest(V o, V d, RTCRayHit &h) {
    rays++;
    h.ray = {(float)o.x, (float)o.y, (float)o.z, 0, (float)d.x, (float)d.y, (float)d.z, 0, (float)INF, 0xffffffffu, 0, 0};
    h.hit.geomID = h.hit.instID[0] = RTC_INVALID_GEOMETRY_ID;
    rtcIntersect1(s.top, &context, &h);
    return h.hit.geomID != RTC_INVALID_GEOMETRY_ID;
  }
  bool open(V o, V d, double end) {
    rays++;
    RTCRay r = {(float)o.x, (float)o.y, (float)o.z, 0, (float)d.x, (float)d.y, (float)d.z, 0, (float)end, 0xffffffffu, 0, 0};
    rtcOccluded1(s.top, &context, &r);
    return r.tfar >= 0;
  }

  /** Distance along a ray to the square light, seen from its shining side. */
  double square(V o, V d) const {
    const V n = {s.normal[0], s.normal[1], s.normal[2]}, c = {s.corner[0], s.corner[1], s.corner[2]};
    const double facing = dot(n, d);
    if (!(facing < 0)) return INF;
    const double t = dot(n, c - o) / facing;
    if (!(t > 0)) return INF;
    const V q = o + d * t - c, u = {s.u[0], s.u[1], s.u[2]}, v = {s.v[0], s.v[1], s.v[2]};
    const double a = dot(q, u) / dot(u, u), b = dot(q, v) / dot(v, v);
    return a >= 0 && a <= 1 && b >= 0 && b <= 1 ? t : INF;
  }

  static V around(V n, double x, double y, double z) {
    const double sign = n.z >= 0 ? 1 : -1, a = -1 / (sign + n.z), b = n.x * n.y * a;
    return V{1 + sign * n.x * n.x * a, sign * b, -sign * n.x} * x + V{b, sign + n.y * n.y * a, -n.y} * y + n * z;
  }

  double sample(int px, int py) {
    const double x = 2 * (px + random.next()) / s.width - 1, y = 1 - 2 * (py + random.next()) / s.height;
    const double *c = s.camera;
    V o = {c[0], c[1], c[2]};
    V d = unit({c[9] + x * c[3] + y * c[6], c[10] + x * c[4] + y * c[7], c[11] + x * c[5] + y * c[8]});
    double weight = 1, sum = 0, density = 0;
    int diffuse = 0, mirrored = 0, passed = 0;
    for (;;) {
      RTCRayHit h;
      const bool hit = closest(o, d, h);
      const double end = hit ? h.ray.tfar : INF;
      if (s.hasSquare) {
        const double t = square(o, d);
        if (t < end) {
          const double cosine = -(s.normal[0] * d.x + s.normal[1] * d.y + s.normal[2] * d.z), light = t * t / (s.area * cosine);
          sum += weight * s.radiance * (density == 0 ? 1 : density / (density + light));
        }
      }
      if (!hit) {
        // An even sky is left to directions that surfaces draw: no shadow ray goes there.
        return sum + weight * s.sky;
      }
      const Instance &instance = s.instances[h.hit.instID[0]];
      const Material &m = instance.material;
      const double *w = instance.toWorld;
      // Normals transform with the transposed inverse; the scenes of this bench only move their meshes.
      V n = unit({w[0] * h.hit.Ng_x + w[1] * h.hit.Ng_y + w[2] * h.hit.Ng_z, w[4] * h.hit.Ng_x + w[5] * h.hit.Ng_y + w[6] * h.hit.Ng_z, w[8] * h.hit.Ng_x + w[9] * h.hit.Ng_y + w[10] * h.hit.Ng_z});
      const bool entering = dot(n, d) < 0;
      if (!entering) n = n * -1;
      const V p = o + d * end;
      const double lift = 1e-4;
      if (m.kind == MATT && diffuse < s.diffuseLimit && diffuse + mirrored + passed < s.overallLimit) {
        V to;
        double distance = INF, light = 0, radiance = 0;
        if (s.hasSquare) {
          const double a = random.next(), b = random.next();
          to = V{s.corner[0] + a * s.u[0] + b * s.v[0], s.corner[1] + a * s.u[1] + b * s.v[1], s.corner[2] + a * s.u[2] + b * s.v[2]} - p;
          distance = std::sqrt(dot(to, to));
          to = to * (1 / distance);
          const double cosine = -(s.normal[0] * to.x + s.normal[1] * to.y + s.normal[2] * to.z);
          light = cosine > 0 ? distance * distance / (s.area * cosine) : 0;
          radiance = s.radiance;
        }
        const double cosine = dot(to, n);
        if (light > 0 && cosine > 0 && open(p + n * lift, to, distance == INF ? INF : distance * (1 - 1e-4) - lift))
          sum += weight * m.grey * cosine / PI * radiance / (light + cosine / PI);
      }
      if (m.kind == MATT) {
        if (diffuse >= s.diffuseLimit || diffuse + mirrored + passed >= s.overallLimit) return sum;
        diffuse++;
        const double u = random.next(), r = std::sqrt(u), phi = 2 * PI * random.next(), z = std::sqrt(max(0.0, 1 - u));
        d = around(n, r * std::cos(phi), r * std::sin(phi), z);
        density = z / PI;
        weight *= m.grey;
        o = p + n * lift;
        continue;
      }
      if (diffuse + mirrored + passed >= s.overallLimit) return sum;
      density = 0;
      const double cosine = -dot(n, d);
      if (m.kind == MIRROR) {
        if (++mirrored > s.otherLimit) return sum;
        const double k = 1 - cosine, f = m.grey + (1 - m.grey) * k * k * k * k * k;
        weight *= f;
        d = d + n * (2 * cosine);
        o = p + n * lift;
        continue;
      }
      const double eta = entering ? m.ior : 1 / m.ior;
      if (random.next() < fresnel(cosine, eta)) {
        if (++mirrored > s.otherLimit) return sum;
        d = d + n * (2 * cosine);
        o = p + n * lift;
      } else {
        if (++passed > s.otherLimit) return sum;
        const double k = cosine / eta - std::sqrt(max(0.0, 1 - (1 - cosine * cosine) / (eta * eta)));
        d = unit(d * (1 / eta) + n * k);
        weight *= m.grey;
        o = p - n * lift;
      }
    }
  }
};

int main(int argc, char **argv) {
  if (argc < 7) return 1;
  Scene s;
  read(argv[1], s);
  RTCDevice device = rtcNewDevice("threads=1");
  build(device, s);
  const int x0 = std::atoi(argv[2]), y0 = std::atoi(argv[3]), w = std::atoi(argv[4]), h = std::atoi(argv[5]), groups = std::atoi(argv[6]);
  Tracer tracer(s);
  double mean = 0, variance = 0;
  const std::clock_t started = std::clock();
  for (int y = 0; y < h; y++)
    for (int x = 0; x < w; x++) {
      double own = 0, squares = 0;
      for (int g = 0; g < groups; g++) {
        tracer.random = {(uint64_t)(y * 8191 + x) * 977 + g, ((uint64_t)(y * w + x) << 1) | 1};
        tracer.random.next();
        double sum = 0;
        for (int k = 0; k < 4; k++) sum += tracer.sample(x0 + x, y0 + y);
        own += sum / 4;
        squares += sum * sum / 16;
      }
      mean += own / groups;
      variance += (squares - own * own / groups) / groups / max(1, groups - 1);
    }
  const double seconds = (double)(std::clock() - started) / CLOCKS_PER_SEC;
  std::printf("%g %llu %.9g %.9g\n", seconds, (unsigned long long)tracer.rays, mean / (w * h), std::sqrt(variance) / (w * h));
}
