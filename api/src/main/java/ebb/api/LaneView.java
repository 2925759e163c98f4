package ebb.api;

import java.util.List;

/** One application on the tide line. */
public record LaneView(String application, List<SpanView> spans) {}
