package ebb.api;

import java.util.List;

/** Whether the journal is whole. */
public record VerificationView(long entries, String seal, List<String> faults) {}
