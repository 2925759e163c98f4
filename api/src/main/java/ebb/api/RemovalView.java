package ebb.api;

import java.util.List;

/**
 * What an order to remove accounts came to.
 *
 * @param begun whose removal began, each as a departure of its own
 * @param refused each with the reason
 * @param left how many more may begin, beyond the part that was ordered
 */
public record RemovalView(List<OffView> begun, List<OffView> refused, long left) {}
