// The otter hand puppet before the studio wall: curly wool, feathery tuft, knitted scarf, felt paws.
#version 3.7;
global_settings{ assumed_gamma 1.0 max_trace_level 6 }
#include "lantern-quay.inc"
#default{ finish{ ambient 0 diffuse 0.75 } }
camera{ perspective location <-0.7,0.7,-11> look_at <0,0.02,0> right x*image_width/image_height up y angle 29 Focus(0.08,<0,0.5,-0.85>,7,22) }

SoftLight(<-5.5,7,-6.5>, rgb <1.22,1.12,0.98>, 3.4, 3)
FillLight(<7,1,-9>, rgb <0.20,0.23,0.29>)
SoftLight(<5.2,5.2,3.4>, rgb <0.62,0.58,0.52>, 1.5, 2)
#if (!MATTE) light_source{ <-3.4,2.2,-1.5> rgb <0.62,0.58,0.56> spotlight point_at <-2.4,0.8,5> radius 3 falloff 48 shadowless } #end

// studio wall: plaster with brush marks and blotches, and a sweep into the floor
#declare T_Wall = texture{
  pigment{ bozo scale 2.8 warp{ turbulence 0.7 octaves 5 } color_map{ [0 srgb <0.55,0.56,0.69>][0.5 srgb <0.575,0.58,0.71>][1 srgb <0.60,0.605,0.73>] } }
  normal{ average normal_map{ [1 granite 0.06 scale 0.9][0.7 wrinkles 0.08 scale <0.5,0.16,0.5>] } }
  finish{ diffuse 0.58 } }
plane{ -z,-4.8 Around(T_Wall) hollow }

#declare Wool = array[5]{ srgb <0.71,0.42,0.20>, srgb <0.62,0.34,0.15>, srgb <0.78,0.50,0.27>, srgb <0.52,0.27,0.12>, srgb <0.68,0.39,0.19> }
#declare Pale = array[5]{ srgb <0.93,0.86,0.73>, srgb <0.88,0.80,0.66>, srgb <0.96,0.91,0.80>, srgb <0.84,0.74,0.58>, srgb <0.90,0.83,0.69> }
#declare F_Wool = finish{ diffuse 0.82 specular 0.10 roughness 0.08 }
#declare T_Core = texture{ pigment{ granite scale 0.15 color_map{ [0 srgb <0.34,0.18,0.09>][1 srgb <0.54,0.31,0.16>] } } normal{ granite 0.8 scale 0.1 } finish{ diffuse 0.7 } }
#declare T_PaleCore = texture{ pigment{ granite scale 0.12 color_map{ [0 srgb <0.66,0.56,0.42>][1 srgb <0.86,0.78,0.64>] } } normal{ granite 0.8 scale 0.1 } finish{ diffuse 0.75 } }
#declare T_Felt = texture{ pigment{ granite scale 0.05 color_map{ [0 srgb <0.28,0.17,0.12>][1 srgb <0.40,0.26,0.19>] } } normal{ granite 0.35 scale 0.03 } finish{ diffuse 0.8 } }
#declare T_Nose = texture{ pigment{ srgb <0.09,0.07,0.07> } normal{ bumps 0.25 scale 0.02 } finish{ diffuse 0.6 specular 0.5 roughness 0.04 } }
#declare T_Glass = texture{ pigment{ srgb <0.05,0.03,0.02> } finish{ diffuse 0.5 specular 1.2 roughness 0.003 reflection 0.06 } }

// solid parts under the wool
#declare HeadC = <0,0.72,0>; #declare HeadR = <0.98,0.86,0.88>;
#declare BodyC = <0,-1.75,0.2>; #declare BodyR = <1.12,1.75,0.85>;
#declare ArmC = <1.30,-0.62,-0.1>; #declare ArmR = <0.62,0.30,0.30>;
sphere{ 0,1 scale HeadR translate HeadC Subject(T_Core) }
sphere{ 0,1 scale BodyR translate BodyC Subject(T_Core) }
union{ sphere{ 0,1 scale <0.44,0.32,0.42> translate <0,0.48,-0.78> } sphere{ 0,1 scale <0.30,0.25,0.3> translate <0,0.28,-0.78> } Subject(T_PaleCore) }
sphere{ 0,1 scale <0.19,0.13,0.12> translate <0,0.64,-1.17> Subject(T_Nose) }
union{ torus{ 0.12,0.014 rotate x*-75 clipped_by{ plane{ y,-0.02 } } translate <-0.105,0.42,-1.175> }
       torus{ 0.12,0.014 rotate x*-75 clipped_by{ plane{ y,-0.02 } } translate < 0.105,0.42,-1.175> } Subject(T_Nose) }
union{ sphere{ <-0.36,0.92,-0.79>,0.115 } sphere{ <0.36,0.92,-0.79>,0.115 } Subject(T_Glass) }
#declare Paw = union{ sphere{ 0,1 scale <0.26,0.22,0.20> } sphere{ <0.20,0.12,0>,0.10 } sphere{ <0.24,0,0>,0.10 } sphere{ <0.20,-0.12,0>,0.10 } }
#macro Side(S)
  sphere{ 0,1 scale ArmR rotate z*24 translate ArmC scale <S,1,1> Subject(T_Core) }
  object{ Paw rotate z*38 translate <1.92,-0.30,-0.18> scale <S,1,1> Subject(T_Felt) }
  union{ sphere{ 0,1 scale <0.25,0.25,0.13> translate <0.80,1.36,0.02> scale <S,1,1> } Subject(T_Core) }
  sphere{ 0,1 scale <0.14,0.15,0.07> translate <0.80,1.37,-0.09> scale <S,1,1> Subject(T_Felt) }
#end
Side(1) Side(-1)
// knitted scarf: two rings of stitches, a hanging end with a fringe
#declare RS = seed(31);
#declare ScarfA = texture{ pigment{ granite scale 0.1 color_map{ [0 srgb <0.13,0.34,0.36>][1 srgb <0.20,0.45,0.46>] } } normal{ granite 0.5 scale 0.03 } finish{ diffuse 0.8 } }
#declare ScarfB = texture{ pigment{ granite scale 0.1 color_map{ [0 srgb <0.82,0.68,0.36>][1 srgb <0.90,0.78,0.48>] } } normal{ granite 0.5 scale 0.03 } finish{ diffuse 0.8 } }
#declare r=0;
#while (r<5)
  union{ #declare i=0; #while (i<64) #local An=i/64*2*pi;
      sphere{ 0,1 scale <0.075,0.055,0.075> rotate z*25*(mod(i+r,2)*2-1) translate <(0.92-0.02*r)*cos(An),-0.20+r*0.062+0.05*sin(An*2),(0.80)*sin(An)+0.03> }
      #declare i=i+1; #end
    #if (mod(r,2)) Subject(ScarfB) #else Subject(ScarfA) #end }
  #declare r=r+1;
#end
#declare r=0;
#while (r<14)
  union{ #declare i=0; #while (i<6) sphere{ 0,1 scale <0.055,0.05,0.05> rotate z*25*(mod(i+r,2)*2-1) translate <-0.48+i*0.075-0.012*r,-0.22-r*0.075,-0.98+0.02*sin(r)> } #declare i=i+1; #end
    #if (mod(int(r/2),2)) Subject(ScarfB) #else Subject(ScarfA) #end }
  #declare r=r+1;
#end
union{ #declare i=0; #while (i<34) Thread(<-0.68+RR(0,0.44),-1.20,-0.97+RR(-.03,.03)>,<RR(-.2,.2),-1,RR(-.2,.1)>,RR(0.18,0.30),0.012,1.5,0.2,0.2,0.008,10) #declare i=i+1; #end Subject(ScarfA) }

// wool
#declare RS = seed(2711);
#declare Cam = vnormalize(<-0.7,0.7,-11>);
#macro Coat(C,R,N,L0,L1,Rot,S)
  #local k=0; #while (k<N)
    #local U = RandomDirection(); #local P = vrotate(<U.x*R.x,U.y*R.y,U.z*R.z>,z*Rot); #local Nn = vrotate(vnormalize(<U.x/R.x,U.y/R.y,U.z/R.z>),z*Rot);
    #local P = (P+C)*<S,1,1>; #local Nn = Nn*<S,1,1>;
    #local Face = min(vlength((P-<0,0.44,-0.95>)*<1/0.56,1/0.46,1/0.7>), min(vlength((P-<-0.36,0.92,-0.85>)*<1/0.2,1/0.2,1/0.3>), vlength((P-<0.36,0.92,-0.85>)*<1/0.2,1/0.2,1/0.3>)));
    #local Neck = (P.y > -0.34 & P.y < 0.16 & vlength(P*<1,0,1>) < 1.15 & P.z < 0.3);
    #if (vdot(Nn,Cam) > -0.35 & Face > 1 & !Neck & P.y > -2.35)
      Thread(P*0.985, Nn+<RR(-.38,.38),RR(-.38,.38),RR(-.38,.38)>, RR(L0,L1)*min(1,0.4+0.8*(Face-1)), RR(0.018,0.045), RR(1.2,2.9), 0.28, 0.35, RR(0.0028,0.0043), 13)
    #end
    #local k=k+1; #end
#end
#declare ci=0;
#while (ci<5)
  union{
    Coat(HeadC,HeadR,1700,0.14,0.30,0,1)
    Coat(BodyC,BodyR,1900,0.16,0.34,0,1)
    Coat(ArmC,ArmR,420,0.12,0.26,24,1)
    Coat(ArmC,ArmR,420,0.12,0.26,24,-1)
    Coat(<0.80,1.36,0.02>,<0.25,0.25,0.13>,170,0.08,0.18,0,1)
    Coat(<0.80,1.36,0.02>,<0.25,0.25,0.13>,170,0.08,0.18,0,-1)
    // feathery tuft between the ears
    #local k=0; #while (k<70)
      #local Nn = vnormalize(<RR(-.32,.32),1,RR(-.6,.2)>);
      Thread(HeadC+Nn*HeadR*0.96, Nn+<RR(-.5,.5),RR(0,.5),RR(-.5,.2)>, RR(0.28,0.50), RR(0.02,0.05), RR(0.8,2.2), 0.3, 0.5, RR(0.0026,0.0040), 16)
      #local k=k+1; #end
    // fly-away hairs
    #local k=0; #while (k<44)
      #local Nn = RandomDirection(); #local Nn = vnormalize(<Nn.x,Nn.y*0.8+0.3,Nn.z*0.45>);
      Thread(HeadC+Nn*HeadR*0.97, Nn+<RR(-.6,.6),RR(-.6,.6),RR(-.3,.3)>, RR(0.40,0.75), RR(0.02,0.06), RR(0.5,2.0), 0.2, 0.8, RR(0.0023,0.0031), 20)
      #local k=k+1; #end
    Subject(texture{ pigment{ Wool[ci] } finish{ F_Wool } })
  }
  // pale muzzle and belly
  union{
    #local k=0; #while (k<330)
      #local U = RandomDirection(); #local P = <0,0.44,-0.78>+U*<0.44,0.36,0.42>;
      #if (U.z < 0.25 & vlength((P-<0,0.62,-1.19>)*<1/0.22,1/0.17,1/0.2>) > 1 & vlength((P-<0,0.38,-1.2>)*<1/0.26,1/0.1,1/0.2>) > 1)
        Thread(P*1, U+<RR(-.4,.4),RR(-.4,.4),RR(-.3,.3)>, RR(0.05,0.13), RR(0.01,0.02), RR(0.8,1.8), 0.3, 0.3, RR(0.0024,0.0036), 8)
      #end
      #local k=k+1; #end
    #local k=0; #while (k<420)
      #local An = RR(-0.55,0.55); #local Yy = RR(-2.2,-0.45);
      #local U = vnormalize(<sin(An)*0.8,0.1*(Yy+1.4),-cos(An)>); #local P = BodyC+<sin(An)*0.85,Yy+1.75,-cos(An)*0.86>*<1,1,1>;
      Thread(P, U+<RR(-.4,.4),RR(-.4,.4),RR(-.2,.2)>, RR(0.10,0.22), RR(0.015,0.035), RR(1,2.4), 0.3, 0.3, RR(0.0026,0.0040), 11)
      #local k=k+1; #end
    Subject(texture{ pigment{ Pale[ci] } finish{ F_Wool } })
  }
  #declare ci=ci+1;
#end
// whiskers
#declare RS = seed(8);
union{ #declare i=0; #while (i<14) #local S = mod(i,2)*2-1;
    Thread(<S*0.30,0.46+RR(-.08,.1),-1.02>, <S*1,RR(-.28,.32),RR(-.35,0.1)>, RR(0.75,1.05), 0.002, 0.2, 0.18, 0.15, 0.0042, 16) #declare i=i+1; #end
  Subject(texture{ pigment{ srgb <0.93,0.90,0.84> } finish{ diffuse 0.8 specular 0.4 roughness 0.03 } }) }
