package docksort.run;

import docksort.catalogue.WorkingCopy;

/// One copy of a run as it stands now.
///
/// @param clipName the clip it is made of
/// @param framesDone frames encoded so far
/// @param framesAll frames it will have
/// @param framesPerSecond how fast it is encoded now, 0 when it is not
public record CopyProgress(
        WorkingCopy copy, String clipName, long framesDone, long framesAll, double framesPerSecond) {}
