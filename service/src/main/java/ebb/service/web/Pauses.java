package ebb.service.web;

import ebb.api.PauseView;
import ebb.core.application.Application.Pause;

/** Pauses as they are shown. */
public final class Pauses {
  /** Null stays null. */
  public static PauseView view(Pause pause) {
    return pause == null ? null : new PauseView(pause.by(), pause.why(), pause.at());
  }

  private Pauses() {}
}
