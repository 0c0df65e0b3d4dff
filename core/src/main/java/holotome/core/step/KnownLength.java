package holotome.core.step;

/** Two points in working space (3 doubles each) and the true distance between them. */
public record KnownLength(
    @Parameter(help = "One end, x y z in working space") double[] from,
    @Parameter(help = "The other end") double[] to,
    @Parameter(help = "The true distance between them") Length is) {}
