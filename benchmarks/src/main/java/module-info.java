/** Measurements beside reference libraries. */
module holotome.benchmarks {
  requires holotome.core;
  requires holotome.view;
  requires holotome.demo;
  requires holotome.cli;
  requires java.desktop;
  requires org.lwjgl;
  requires org.lwjgl.meshoptimizer;
}
