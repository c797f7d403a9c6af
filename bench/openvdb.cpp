// The peer OpenVDB: the difference of narrow-band level sets. Making the level
// sets of the motions is not timed.
#include <openvdb/openvdb.h>
#include <openvdb/tools/Composite.h>
#include <openvdb/tools/LevelSetMeasure.h>
#include <openvdb/tools/SignedFloodFill.h>
#include <openvdb/tools/VolumeToMesh.h>

#include <algorithm>
#include <chrono>
#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <functional>
#include <vector>

using openvdb::Vec3d;

struct Pose { Vec3d tip, axis; };

static std::vector<Pose> poses(int motions, double length) {
  std::vector<Pose> list;
  double x = -2.5, sense = 1;
  for (int n = 0; n <= motions; n++) {
    double a = n / 9.0;
    Vec3d axis(0.08 * std::sin(a), 0.08 * std::cos(a), 1);
    axis.normalize();
    list.push_back({Vec3d(x, -1.2 + 2.4 * n / motions, 0.9 - 0.8 * n / motions), axis});
    x += sense * length / motions;
    if (std::abs(x) > 2.5) sense = -sense;
  }
  return list;
}

// Distance to the hull of two balls on an axis.
static double pear(const Vec3d& p, const Pose& at) {
  const double tip = 0.4, neck = 0.3, head = 1.5, between = head - tip - neck;
  const double b = (tip - neck) / between, a = std::sqrt(1 - b * b);
  Vec3d q = p - at.tip;
  double z = q.dot(at.axis), rho = std::sqrt(std::max(q.lengthSqr() - z * z, 0.0));
  z -= tip;
  double k = a * z - b * rho;
  if (k < 0) return std::hypot(rho, z) - tip;
  if (k > a * between) return std::hypot(rho, z - between) - neck;
  return a * rho + b * z - tip;
}

using Field = std::function<double(const Vec3d&)>;

static openvdb::FloatGrid::Ptr levelSet(double h, Vec3d lo, Vec3d hi, const Field& f) {
  const double band = 3 * h;
  auto grid = openvdb::FloatGrid::create(float(band));
  grid->setTransform(openvdb::math::Transform::createLinearTransform(h));
  grid->setGridClass(openvdb::GRID_LEVEL_SET);
  auto access = grid->getAccessor();
  const int margin = 4;
  for (int k = int(std::floor(lo.z() / h)) - margin; k <= hi.z() / h + margin; k++)
    for (int j = int(std::floor(lo.y() / h)) - margin; j <= hi.y() / h + margin; j++)
      for (int i = int(std::floor(lo.x() / h)) - margin; i <= hi.x() / h + margin; i++) {
        double d = f(Vec3d(i * h, j * h, k * h));
        if (std::abs(d) < band) access.setValue({i, j, k}, float(d));
      }
  openvdb::tools::signedFloodFill(grid->tree());
  return grid;
}

int main(int argc, char** argv) {
  openvdb::initialize();
  const double h = argc > 1 ? std::atof(argv[1]) : 0.1;
  auto block = levelSet(h, {-4, -2.5, -1.5}, {4, 2.5, 1.5}, [](const Vec3d& p) {
    Vec3d q(std::abs(p.x()) - 4, std::abs(p.y()) - 2.5, std::abs(p.z()) - 1.5);
    Vec3d out(std::max(q.x(), 0.0), std::max(q.y(), 0.0), std::max(q.z(), 0.0));
    return out.length() + std::min(std::max({q.x(), q.y(), q.z()}), 0.0);
  });
  auto all = poses(287, 150);
  std::vector<openvdb::FloatGrid::Ptr> tools;
  for (size_t n = 1; n < all.size(); n++) {
    Pose a = all[n - 1], b = all[n];
    Vec3d lo(1e9), hi(-1e9);
    for (const Pose& p : {a, b})
      for (const Vec3d& v : {p.tip, Vec3d(p.tip + 1.5 * p.axis)})
        for (int k = 0; k < 3; k++) {
          lo[k] = std::min(lo[k], v[k] - 0.4);
          hi[k] = std::max(hi[k], v[k] + 0.4);
        }
    tools.push_back(levelSet(h, lo, hi, [&](const Vec3d& p) {
      double least = 1e9;
      const int steps = 8;
      for (int s = 0; s <= steps; s++) {
        double t = double(s) / steps;
        Pose at{a.tip + t * (b.tip - a.tip), a.axis + t * (b.axis - a.axis)};
        at.axis.normalize();
        least = std::min(least, pear(p, at));
      }
      return least;
    }));
  }
  double volume = 0, best = 1e9;
  const int rounds = 3;
  for (int r = 0; r < rounds; r++) {
    auto cut = block->deepCopy();
    std::vector<openvdb::FloatGrid::Ptr> copies;
    for (auto& t : tools) copies.push_back(t->deepCopy());
    auto began = std::chrono::steady_clock::now();
    for (auto& t : copies) openvdb::tools::csgDifference(*cut, *t);
    best = std::min(best, std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - began).count());
    volume = openvdb::tools::levelSetVolume(*cut);
  }
  std::printf("{\"cut_ms\":%.3f,\"removed_mm3\":%.4f}\n", best, 8.0 * 5 * 3 - volume);
}
