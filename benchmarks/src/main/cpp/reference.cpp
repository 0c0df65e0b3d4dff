// What the reference library (CGAL, https://www.cgal.org) takes for what Holotome does, to be timed
// beside it:
//
//   reference remesh FILE EDGE OUT        isotropic remeshing, three rounds
//   reference decimate FILE COUNT OUT     edge collapse, Lindstrom and Turk
//   reference resurface FILE SPACING OUT  Poisson reconstruction from vertices and their normals
//
// Prints the seconds without reading and writing; FILE and OUT are PLY.
#include <CGAL/Exact_predicates_inexact_constructions_kernel.h>
#include <CGAL/IO/PLY.h>
#include <CGAL/Polygon_mesh_processing/IO/polygon_mesh_io.h>
#include <CGAL/Polygon_mesh_processing/compute_normal.h>
#include <CGAL/Polygon_mesh_processing/remesh.h>
#include <CGAL/Surface_mesh.h>
#include <CGAL/Surface_mesh_simplification/Policies/Edge_collapse/Count_stop_predicate.h>
#include <CGAL/Surface_mesh_simplification/edge_collapse.h>
#include <CGAL/poisson_surface_reconstruction.h>

#include <chrono>
#include <iostream>
#include <string>
#include <utility>
#include <vector>

namespace Processing = CGAL::Polygon_mesh_processing;
namespace Simplification = CGAL::Surface_mesh_simplification;
using Kernel = CGAL::Exact_predicates_inexact_constructions_kernel;
using Mesh = CGAL::Surface_mesh<Kernel::Point_3>;
using Oriented = std::pair<Kernel::Point_3, Kernel::Vector_3>;

int main(int count, char** argument) {
  Mesh mesh;
  if (count < 5 || !Processing::IO::read_polygon_mesh(argument[2], mesh)) {
    std::cerr << "reference: cannot read the mesh\n";
    return 1;
  }
  std::string what = argument[1];
  double by = std::stod(argument[3]);
  Mesh made;
  auto start = std::chrono::steady_clock::now();
  if (what == "remesh") {
    Processing::isotropic_remeshing(faces(mesh), by, mesh,
                                    CGAL::parameters::number_of_iterations(3));
  } else if (what == "decimate") {
    Simplification::Count_stop_predicate<Mesh> stop(static_cast<std::size_t>(1.5 * by));
    Simplification::edge_collapse(mesh, stop);
  } else if (what == "resurface") {
    auto normals = mesh.add_property_map<Mesh::Vertex_index, Kernel::Vector_3>("v:n").first;
    Processing::compute_vertex_normals(mesh, normals);
    std::vector<Oriented> points;
    for (auto v : mesh.vertices()) {
      points.emplace_back(mesh.point(v), normals[v]);
    }
    CGAL::poisson_surface_reconstruction_delaunay(
        points.begin(), points.end(), CGAL::First_of_pair_property_map<Oriented>(),
        CGAL::Second_of_pair_property_map<Oriented>(), made, by);
  } else {
    std::cerr << "reference: remesh, decimate or resurface\n";
    return 1;
  }
  double seconds =
      std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
  Mesh& out = what == "resurface" ? made : mesh;
  out.collect_garbage();
  CGAL::IO::write_PLY(std::string(argument[4]), out,
                      CGAL::parameters::use_binary_mode(true).stream_precision(9));
  std::cout << seconds << "\n";
  return 0;
}
